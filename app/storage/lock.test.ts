import { afterEach, expect, it } from 'vitest'
import { answerTabs, askOthers } from './lock'

const ends: Array<() => void> = []
afterEach(() => {
  for (const end of ends.splice(0)) end()
})
const later = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

it('waits for the tab that holds a rig, whatever other tabs are open', async () => {
  let isKept = false
  ends.push(answerTabs(() => null))
  ends.push(
    answerTabs((id) =>
      id === 'mine'
        ? later(120).then(() => {
            isKept = true
          })
        : null,
    ),
  )
  // It hears at once, which is what it has little time for.
  await askOthers('mine', 'take-over', 60)
  expect(isKept).toBe(true)
})

it('goes on without one that does not answer, or hears and never ends', async () => {
  await askOthers('mine', 'delete', 50)
  ends.push(answerTabs(() => new Promise(() => {})))
  await askOthers('mine', 'delete', 50, 60)
})
