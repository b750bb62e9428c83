import { buildTaskProcess } from './build.mjs'
import { run } from './lib.mjs'

await buildTaskProcess()
run('npx', ['next', 'dev', '--hostname', '127.0.0.1', '--port', process.env.PORT ?? '3000'])
