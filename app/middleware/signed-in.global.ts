const OPEN = ['/sign-in', '/first-start', '/certificate']

/** Without a session there is only one page: creating the owner on a new shop, signing in on any other. */
export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSessionStore()
  if (!session.isLoaded) {
    try {
      await session.load()
    } catch (error) {
      return abortNavigation(createError({ statusCode: 503, statusMessage: failureWords(error), fatal: true }))
    }
  }
  if (to.path === '/certificate') return
  if (session.needsOwner) return to.path === '/first-start' ? undefined : navigateTo('/first-start')
  if (to.path === '/first-start') return navigateTo('/')
  if (!session.person && !OPEN.includes(to.path))
    return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { to: to.fullPath } })
  if (session.person && to.path === '/sign-in') return navigateTo('/')
  if (to.path === '/settings' && !session.may('playbook')) return navigateTo('/')
  if (to.path === '/health' && !session.may('people')) return navigateTo('/')
  if (to.path.startsWith('/ledger') && !session.may('work')) return navigateTo('/')
  // Counter staff work on the case, not at the bench.
  if (to.path.startsWith('/bench') && !session.may('work'))
    return navigateTo(to.path.replace('/bench', '/cases').replace(/\/cases$/, '/'))
})
