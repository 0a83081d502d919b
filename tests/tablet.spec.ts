import { networkInterfaces } from 'node:os'
import { request as requests } from '@playwright/test'
import { Server } from './support/server'
import { expect, signIn, test } from './support/shop'

/** An address of this machine that others of its network reach; none where it has no network. */
const outside = Object.values(networkInterfaces())
  .flatMap((all) => all ?? [])
  .find(({ family, internal }) => family === 'IPv4' && !internal)?.address

test('a tablet on the shop’s network: sent to TLS, given the shop’s authority, signed in, and never without TLS', async ({
  browser,
}) => {
  test.skip(!outside, 'this machine has no network')
  const server = new Server({ LANTERN_DEMO: '1', LANTERN_HOST: '0.0.0.0' })
  try {
    await server.start()
    // On the shop's machine no certificate is in the way, and the fingerprint is shown.
    const shop = await browser.newPage({ baseURL: server.address })
    await signIn(shop.request, 'ottilie')
    await shop.goto('/people')
    const access = shop.getByRole('region', { name: 'Other machines of the shop' })
    await expect(access).toContainText(`https://${outside}:${server.port}/certificate`)
    const fingerprint = (await access.textContent())!.match(/([0-9A-F]{2}:){31}[0-9A-F]{2}/)![0]

    const tablet = await (await browser.newContext({ ignoreHTTPSErrors: true })).newPage()
    await tablet.goto(`http://${outside}:${server.port}/certificate`)
    await expect(tablet).toHaveURL(`https://${outside}:${server.port}/certificate`)
    await expect(tablet.getByRole('heading', { name: 'Trust this server' })).toBeVisible()
    // It is compared with what the shop's machine shows, so it is not shown here.
    await expect(tablet.getByText(fingerprint)).toHaveCount(0)
    const download = tablet.waitForEvent('download')
    await tablet.getByRole('link', { name: /Download the shop’s authority/ }).click()
    expect((await download).suggestedFilename()).toBe('russet-lantern-authority.crt')
    await tablet.getByRole('link', { name: 'To the counter' }).click()
    await tablet.getByLabel('Sign-in name').fill('suda')
    await tablet.getByLabel('Password').fill('lock-gate-paddle')
    await tablet.getByRole('button', { name: 'Sign in', exact: true }).click()
    await expect(tablet.getByRole('heading', { level: 1 })).toContainText('before this time tomorrow')
    const cookies = await tablet.context().cookies()
    expect(cookies.map(({ name, secure, httpOnly, sameSite }) => ({ name, secure, httpOnly, sameSite }))).toEqual([
      { name: '__Host-lantern', secure: true, httpOnly: true, sameSite: 'Strict' },
      { name: '__Host-lantern-device', secure: true, httpOnly: true, sameSite: 'Strict' },
    ])
    // The bench says what is new over TLS, too.
    await tablet.goto(`https://${outside}:${server.port}/bench/SL-0012`)
    await tablet.getByRole('textbox', { name: 'passcode', exact: true }).fill('190677')
    await tablet.keyboard.press('Enter')
    await expect(tablet.getByTestId('keeps')).toContainText('was never switched on')

    const plain = await requests.newContext({ baseURL: `http://${outside}:${server.port}` })
    const refused = await plain.post('/api/session', { data: { signIn: 'suda', password: 'lock-gate-paddle' } })
    expect([refused.status(), (await refused.json()).message]).toEqual([409, 'This server accepts only https.'])
  } finally {
    await server.remove()
  }
})
