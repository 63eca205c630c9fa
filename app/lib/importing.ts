import type { Ref } from 'vue'
import type { Rig } from '#core/rig'
import { FILE_LIMITS, type ParseResult } from '#core/rig/parse'
import type { Problem } from '#core/rig/problems'
import { readFailure } from './read-failure'
import { readAway, type IncomingFile } from './reading'

const refused = (message: string): Problem[] => [{ path: '(file)', message }]

/**
 * Read a rig from a file, in a worker, and do with it what is to be done; how far it is stands in `incoming`. Gives why it was refused, or
 * null where it was not.
 */
export async function readRigFile(
  file: File,
  incoming: Ref<IncomingFile | null>,
  take: (rig: Rig) => Promise<void>,
): Promise<readonly Problem[] | null> {
  if (file.size > FILE_LIMITS.bytes)
    return refused(
      `It is ${Math.ceil(file.size / 2 ** 20)} MB large; a rig has ${FILE_LIMITS.bytes / 2 ** 20} MB at most.`,
    )
  incoming.value?.stop()
  const own = readAway(
    async (reader, report): Promise<ParseResult> => reader.rig(file, report),
    (progress) => {
      if (incoming.value?.stop === own.stop) incoming.value = { ...incoming.value, progress }
    },
  )
  incoming.value = { name: file.name, progress: { stage: 'opening', done: 0 }, stop: own.stop }
  try {
    const result = await own.result
    if (result?.ok) await take(result.rig)
    return result && !result.ok ? result.problems : null
  } catch (error) {
    return refused(readFailure(error))
  } finally {
    if (incoming.value?.stop === own.stop) incoming.value = null
  }
}
