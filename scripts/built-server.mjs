// Before the tests of the server: the tasks that it runs in threads must be built from the sources as they are.
import { buildServer } from './setup.mjs'

export const setup = () => buildServer()
