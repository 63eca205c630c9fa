import type { Destination } from '#core/rig'
import { readGiven, type Given } from '~/lib/destinations/read-list'
import { readFailure } from '~/lib/read-failure'
import { readAway, type IncomingFile } from '~/lib/reading'

/** A text of more characters is read in a worker. */
const LONG_TEXT = 200_000
/** No table and no MIDI Name Document that is read is larger. */
const MOST_BYTES = 16 * 1024 * 1024

const megabytes = (bytes: number): number => Math.ceil(bytes / 2 ** 20)

/** What is given as a list for a destination: pasted, or in a file. What was given last counts. */
export function useGivenList(destination: () => Destination) {
  const given = shallowRef<Given | null>(null)
  const incoming = shallowRef<IncomingFile | null>(null)
  let asked = 0

  function begin(): number {
    incoming.value?.stop()
    incoming.value = null
    return ++asked
  }

  async function readFile(file: File): Promise<void> {
    const own = begin()
    if (file.size > MOST_BYTES) {
      const message = `“${file.name}” is ${megabytes(file.size)} MB large; a list has ${megabytes(MOST_BYTES)} MB at most.`
      given.value = { kind: 'refused', message }
      return
    }
    const { result, stop } = readAway(
      async (reader, report): Promise<Given> => reader.list(file, destination(), report),
      (progress) => {
        if (own === asked && incoming.value) incoming.value = { ...incoming.value, progress }
      },
    )
    incoming.value = { name: file.name, progress: { stage: 'opening', done: 0 }, stop }
    const found = await result.catch((error: unknown): Given => ({
      kind: 'refused',
      message: readFailure(error),
    }))
    if (own !== asked) return
    incoming.value = null
    if (found) given.value = found
  }

  async function read(source: string): Promise<void> {
    if (source.length > LONG_TEXT) return readFile(new File([source], 'the list'))
    const own = begin()
    const found = source.trim() === '' ? null : await readGiven(source, destination())
    if (own === asked) given.value = found
  }

  onBeforeUnmount(begin)
  return { given, incoming, read, readFile }
}
