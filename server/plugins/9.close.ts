/** Closes the database after everything else has written down how far it came, so that its log is folded in. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('close', () => useLantern().close())
})
