import { isSame } from '../rig/compare'

/** Fields whose names in the format are not the words for them. */
const FIELD_WORDS: Readonly<Record<string, string>> = {
  homeChannel: 'home channel',
  deviceNumber: 'device number',
  inUse: 'in use',
  middleC: 'octave of middle C',
  programsFrom: 'programs count from',
  countsFrom: 'counts programs from',
  powerUp: 'layer at power-up',
  lineCheck: 'line check',
  noteNames: 'note names',
  learnedAt: 'address that was taught',
  stepRule: 'what a step moves',
  setAside: 'findings set aside',
  lightRoles: 'light roles',
  houseRules: 'house rules',
  switchesTo: 'what it switches to',
  detentsPerTurn: 'detents a turn',
  inside: 'host',
  place: 'place on the surface',
  checklist: 'set-up checklist',
  rehearsed: 'rehearsal that is kept',
}

/** A field in a player's words. */
export const fieldName = (field: string): string =>
  FIELD_WORDS[field] ??
  field.replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`)

const MOST_TEXT = 60

/** A value that is chosen among a few, such as `at-once`. */
const isChosen = (value: string): boolean => /^[a-z]+(-[a-z]+)+$/.test(value)

/** A plain value in words; null where it is more than one. */
function plain(value: unknown): string | null {
  if (value === null || value === undefined) return 'none'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') return String(Math.round(value * 100) / 100)
  if (typeof value !== 'string') return null
  if (isChosen(value)) return value.replaceAll('-', ' ')
  return value.length > MOST_TEXT ? `“${value.slice(0, MOST_TEXT)}…”` : `“${value}”`
}

/** Ids say nothing to a player: where they differ, only that they do. */
const NAMES_ONLY: ReadonlySet<string> = new Set([
  'powerUp',
  'inside',
  'block',
  'model',
  'template',
  'scope',
  'destination',
  'parameter',
  'gesture',
])

export interface FieldChange {
  name: string
  /** What it was and is; null where that is more than a few words. */
  was: string | null
  is: string | null
}

/** One field that differs. */
export function fieldChange(field: string, before: unknown, after: unknown): FieldChange {
  const [was, is] = [plain(before), plain(after)]
  const isSaid = was !== null && is !== null && !NAMES_ONLY.has(field)
  return { name: fieldName(field), was: isSaid ? was : null, is: isSaid ? is : null }
}

/** The fields in which two things differ. */
export function fieldChanges(before: object, after: object): FieldChange[] {
  const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>]
  return [...new Set([...Object.keys(a), ...Object.keys(b)])]
    .filter((field) => field !== 'id' && !isSame(a[field], b[field]))
    .map((field) => fieldChange(field, a[field], b[field]))
}
