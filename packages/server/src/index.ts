export { startServer, type Running, type Options } from './server.ts'
export { Store, type StoreHooks } from './store.ts'
export { bundledFonts } from './fonts.ts'
