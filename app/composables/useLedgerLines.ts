import { ledgerRows, type LedgerColumnId, type LedgerRow } from '#core/rig/program/ledger'

/** What the ledger is narrowed to; an empty text leaves everything in. */
export interface LedgerFilter {
  text: string
  controller: string
  layer: string
  kind: string
  channel: string
  withFindings: boolean
  thatSend: boolean
}

const anything = (): LedgerFilter => ({
  text: '',
  controller: '',
  layer: '',
  kind: '',
  channel: '',
  withFindings: false,
  thatSend: true,
})

const valuesOf = (lines: readonly LedgerRow[], column: LedgerColumnId): string[] =>
  [...new Set(lines.map((line) => line[column]))]
    .filter((value) => value !== '')
    .sort((a, b) => a.localeCompare(b, undefined, { numeric: true }))

/** The lines of the ledger that its filter leaves; words are looked for in the columns that show. */
export function useLedgerLines(shown: () => readonly LedgerColumnId[]) {
  const rigs = useRigStore()
  const marks = useMarks()
  const filter = reactive(anything())

  const all = computed(() => (rigs.rig ? ledgerRows(rigs.rig) : []))
  const ofController = computed(() =>
    filter.controller === ''
      ? all.value
      : all.value.filter(({ place }) => place.controller === filter.controller),
  )
  const matching = computed(() => {
    const words = filter.text.toLowerCase().split(/\s+/).filter(Boolean)
    const columns = shown()
    return new Set(ofController.value.filter((line) => matches(line, words, columns)).map(({ key }) => key))
  })
  function matches(line: LedgerRow, words: readonly string[], columns: readonly LedgerColumnId[]): boolean {
    if (filter.thatSend && line.address === '') return false
    if (filter.layer !== '' && line.layer !== filter.layer) return false
    if (filter.kind !== '' && line.kind !== filter.kind) return false
    if (filter.channel !== '' && line.channel !== filter.channel) return false
    if (filter.withFindings && !marks.value.byPlace.has(line.key)) return false
    if (words.length === 0) return true
    const whole = columns
      .map((id) => line[id])
      .join(' ')
      .toLowerCase()
    return words.every((word) => whole.includes(word))
  }
  // A line being edited must not vanish under the hand because it no longer matches.
  const kept = shallowRef<ReadonlySet<string>>(new Set())
  watch([filter, () => shown().join(' '), () => rigs.id], () => (kept.value = matching.value), {
    immediate: true,
  })
  const lines = computed(() =>
    ofController.value.filter(({ key }) => matching.value.has(key) || kept.value.has(key)),
  )
  const choices = computed(() => ({
    layer: valuesOf(ofController.value, 'layer'),
    kind: valuesOf(ofController.value, 'kind'),
    channel: valuesOf(ofController.value, 'channel'),
  }))
  watch(choices, (offered) => {
    for (const column of ['layer', 'kind', 'channel'] as const)
      if (!offered[column].includes(filter[column])) filter[column] = ''
  })
  const clear = (): void => void Object.assign(filter, anything(), { thatSend: false })

  return { filter, lines, choices, clear }
}
