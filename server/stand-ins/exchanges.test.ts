import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { LinkFault } from '../../core/bench/fault'
import { ItemPage } from '../../core/bench/item'
import { LinkList } from '../../core/bench/protocol'
import { LinkState } from '../../core/bench/state'
import { exchangesOfStandIns, type Exchange } from './exchanges'

const recorded = JSON.parse(
  readFileSync(join(import.meta.dirname, '../../stand-ins/exchanges/stand-ins.json'), 'utf8'),
) as Exchange[]

describe('the stand-ins', () => {
  it('answer every recorded request as it was recorded', async () => {
    expect(await exchangesOfStandIns(recorded.map(({ request }) => request))).toEqual(recorded)
  })

  it('answer nothing that is not in the protocol', () => {
    for (const { request, response } of recorded) {
      if (response.json === undefined) continue
      const shape =
        response.status >= 400
          ? LinkFault
          : request.path === '/links'
            ? LinkList
            : /items/.test(request.path)
              ? ItemPage
              : null
      if (shape) expect(shape.safeParse(response.json).success, request.path).toBe(true)
      if (/^\/links\/[a-z-]+$/.test(request.path) && response.status === 200)
        expect(LinkState.parse(response.json)).toEqual(response.json)
    }
  })
})
