import { writeFileSync } from 'node:fs'
import { it } from 'vitest'
import { By, Key } from 'selenium-webdriver'
import { startSession } from './browser'
import { openPerformed } from './demo'
it('looks', { timeout: 300_000 }, async () => {
  const s = await startSession()
  const { page } = s as any
  console.log(Object.keys(s))
})
