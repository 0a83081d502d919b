import { expect, test } from 'vitest'
import { accessTable, routes, wrongRights } from '../support/access'
import { opened } from '../support/carry'

test('every route answers the roles that docs/access.md names, and no other', async () => {
  expect([...accessTable().keys()].sort()).toEqual(routes().sort())
  await opened({}, async (_, { address }) => expect(await wrongRights(address)).toEqual([]))
})
