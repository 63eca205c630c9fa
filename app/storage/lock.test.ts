import { afterEach, expect, it } from 'vitest'
import { answerTabs, askOthers } from './lock'

const ends: Array<() => void> = []
afterEach(() => {
  for (const end of ends.splice(0)) end()
})
const later = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

it('waits for the tab that holds a rig, whatever other tabs are open', async () => {
  let isKept = false
  ends.push(answerTabs(async () => false))
  ends.push(
    answerTabs(async (id) => {
      if (id !== 'mine') return false
      await later(120)
      isKept = true
      return true
    }),
  )
  await askOthers('mine', 'take-over')
  expect(isKept).toBe(true)
})

it('goes on without one that does not answer', async () => {
  ends.push(answerTabs(() => new Promise(() => {})))
  await askOthers('mine', 'delete', 50)
})
