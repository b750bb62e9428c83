import { buildTaskProcess } from './scripts/build.mjs'

/** The processes of the server run from a bundle; tests of them need the present one. */
export default buildTaskProcess
