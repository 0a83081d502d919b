/** Closes the database after every job has written its checkpoint, so that its log is written back. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('close', () => useLantern().close())
})
