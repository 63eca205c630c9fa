import type * as z from 'zod/mini'

/** One thing wrong with a document: where (a path such as `controllers[2].name`) and why. */
export interface Problem {
  path: string
  message: string
}

export type PathStep = string | number

/** So much of a name or a value is shown, and so many of them: a file may hold any. */
const MOST_SHOWN = 60
const MOST_LISTED = 6

const cut = (text: string): string => (text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)}…` : text)

/** Write a path: `controllers[2].templates[0].base["enc-5.turn"]`. The document itself is `(rig)`. */
export function printPath(steps: readonly PropertyKey[]): string {
  let path = ''
  for (const step of steps) {
    if (typeof step === 'number') path += `[${step}]`
    else {
      const name = cut(String(step))
      if (/^[A-Za-z_]\w*$/.test(name)) path += path === '' ? name : `.${name}`
      else path += `[${JSON.stringify(name)}]`
    }
  }
  return path === '' ? '(rig)' : path
}

/** All values that are allowed, or some of those that are not. */
function shown(values: readonly unknown[], most = Infinity): string {
  const first = values
    .slice(0, most)
    .map((value) => (typeof value === 'string' ? `“${cut(value)}”` : String(value)))
    .join(', ')
  return values.length > most ? `${first} and ${values.length - most} more` : first
}

/** Of several alternatives that all failed, the one that came nearest: it failed on a bound, not on the type. */
function nearest(branches: ReadonlyArray<ReadonlyArray<z.core.$ZodIssue>>): z.core.$ZodIssue | undefined {
  const firsts = branches.flatMap((branch) => branch.slice(0, 1))
  return (
    firsts.find(
      (issue) => issue.code === 'too_big' || issue.code === 'too_small' || issue.code === 'custom',
    ) ?? firsts[0]
  )
}

function describe(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'too_big':
      return issue.origin === 'array'
        ? `has too many entries: ${issue.maximum} at most`
        : issue.origin === 'string'
          ? `is too long: ${issue.maximum} characters at most`
          : `is out of range: ${issue.maximum} at most`
    case 'too_small':
      if (issue.message.startsWith('must')) return issue.message
      return issue.origin === 'array'
        ? `needs at least ${issue.minimum} ${Number(issue.minimum) === 1 ? 'entry' : 'entries'}`
        : issue.origin === 'string'
          ? 'must not be empty'
          : `is out of range: ${issue.minimum} at least`
    case 'unrecognized_keys':
      return `has a field that does not belong here: ${shown(issue.keys, MOST_LISTED)}`
    case 'invalid_value':
      return `must be ${issue.values.length === 1 ? shown(issue.values) : `one of ${shown(issue.values)}`}`
    case 'invalid_type':
      if (issue.input === undefined) {
        return `is missing (${issue.expected} expected)`
      }
      return issue.expected === 'int' ? 'must be a whole number' : `must be ${article(issue.expected)}`
    case 'invalid_union': {
      if (issue.errors.length === 0) return `must be one of the known kinds`
      const inner = nearest(issue.errors)
      return inner ? describe(inner) : 'is not of a known kind'
    }
    case 'invalid_key':
      return issue.issues[0] ? describe(issue.issues[0]) : 'has a key that is not allowed'
    default:
      return issue.message
  }
}

const article = (word: string): string => `${/^[aeiou]/.test(word) ? 'an' : 'a'} ${word}`

/**
 * What Zod found (asked with `reportInput`), as places and sentences.
 *
 * @param limit So many of them at most.
 * @param within Where in the document it was found.
 */
export const problemsOf = (
  error: z.core.$ZodError,
  limit = 20,
  within: readonly PathStep[] = [],
): Problem[] =>
  error.issues
    .slice(0, limit)
    .map((issue) => ({ path: printPath([...within, ...issue.path]), message: describe(issue) }))
