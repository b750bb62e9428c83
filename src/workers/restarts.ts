const listeners = new Set<() => void>()

/** Whoever wants to know that a worker died and is started again. */
export const restarts = {
  tell: (): void => listeners.forEach((hear) => hear()),
  hear(listener: () => void): () => void {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  },
}
