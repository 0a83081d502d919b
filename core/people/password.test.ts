import { describe, expect, it } from 'vitest'
import { weakness } from './password'

const context = { common: new Set(['password', 'iloveyou', 'qwertyuiop', 'sunshine1']), words: ['Bram Hollis', 'bram'] }

describe('a new password', () => {
  it.each([
    ['qwertyuiop', 'common'],
    ['QwertyUiop', 'common'],
    ['password2026!', 'common'],
    ['12iloveyou34', 'common'],
    ['aaaaaaaaaaaa', 'different'],
    ['1212121212', 'different'],
    ['bram-hollis-1', 'name'],
    ['HollisBram99', 'name'],
  ])('%s is refused', (password, why) => {
    expect(weakness(password, context)).toContain(why)
  })

  it.each([
    'towpath-heron-4',
    'bram likes a long walk',
    'passwords are for herons',
    'ключ под ковриком',
    '水路の鷺と鍵番人さん',
  ])('%s is taken', (password) => {
    expect(weakness(password, context)).toBeNull()
  })
})
