export default defineOpenRoute({}, async ({ event }) => {
  await clearUserSession(event)
  return { person: null }
})
