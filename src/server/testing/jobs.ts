import { watchJob, type JobState } from '../jobs/jobs'

/** Every state of a job up to its end. */
export const statesOf = (id: string): Promise<JobState[]> =>
  new Promise((resolve) => {
    const states: JobState[] = []
    watchJob(id, (state) => {
      states.push(state)
      if (state.status !== 'running' && state.status !== 'waiting') resolve(states)
    })
  })

/** How a job ended. */
export async function endOf(id: string): Promise<JobState> {
  const states = await statesOf(id)
  return states[states.length - 1]
}
