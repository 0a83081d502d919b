// npm start: the app for a real shop, on its own data folder (LANTERN_DATA, ./data where it is not set).
import { serve } from './serve.mjs'
import { checkNode, ensureBuild, ensureDriver, ensurePackages, say } from './set-up.mjs'

checkNode()
await ensurePackages()
await ensureDriver()
await ensureBuild()
const address = await serve({ port: process.env.LANTERN_PORT || '4747', env: { NODE_ENV: 'production' } })
say(`Russet Lantern is open: ${address}`)
