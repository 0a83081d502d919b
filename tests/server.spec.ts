import { Server } from './support/server'
import { expect, test } from './support/shop'

test('no page is shown without a session', async ({ page }) => {
  for (const path of ['/', '/log', '/cases/SL-0001', '/people']) {
    await page.goto(path)
    await expect(page).toHaveURL(/\/sign-in/)
  }
})

test('nothing but the loopback address is listened on before there is an owner', async ({ page }) => {
  const server = new Server({ LANTERN_HOST: '0.0.0.0' })
  const elsewhere = () =>
    fetch(`http://127.0.0.2:${server.port}/api/session`).then(
      (answer) => answer.ok,
      () => false,
    )
  try {
    await server.start()
    expect(await elsewhere()).toBe(false)
    await page.goto(server.address)
    await expect(page).toHaveURL(/\/first-start$/)
    await page.getByLabel('Your name').fill('Edda Voss')
    await page.getByLabel('Sign-in name').fill('edda')
    await page.getByLabel('Password').fill('short')
    await page.getByRole('button', { name: 'Create owner' }).click()
    await expect(page.getByText('This is shorter than 10 characters.')).toBeVisible()
    await page.getByLabel('Password').fill('willow-bobbin-3')
    await page.getByRole('button', { name: 'Create owner' }).click()
    await expect(page.getByRole('heading', { name: /No cases yet/ })).toBeVisible()
    await server.stop()
    await server.start()
    expect(await elsewhere()).toBe(true)
  } finally {
    await server.remove()
  }
})
