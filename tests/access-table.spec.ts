import { accessTable, routes, wrongRights } from './support/access'
import { expect, test } from './support/shop'

test('every route answers the roles that docs/access.md names, and no other', async ({ shop }) => {
  test.setTimeout(120_000)
  expect([...accessTable().keys()].sort()).toEqual(routes().sort())
  expect(await wrongRights(shop.address)).toEqual([])
})
