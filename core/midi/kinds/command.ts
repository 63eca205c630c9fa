import type { ReadTarget } from './kind'
import type { SystemTarget } from './types'

/** Read a command after its prefix ("mmc:play"); null where the text begins otherwise. */
export function readCommand<C extends string, T extends SystemTarget>(
  text: string,
  prefix: string,
  names: readonly C[],
  make: (command: C) => T,
): ReadTarget<T> | null {
  if (!text.startsWith(`${prefix}:`) || !/^[a-z]+:[a-z-]+$/.test(text)) return null
  const command = names.find((name) => `${prefix}:${name}` === text)
  return command === undefined
    ? { ok: false, message: `${prefix}: is followed by one of ${names.join(', ')}.` }
    : { ok: true, target: make(command) }
}
