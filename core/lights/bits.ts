/** Sets of small whole numbers, 32 to a word. */
export type Bits = Uint32Array

const WORD = 32

/** The numbers below `size` for which something holds. */
export function bitsOf(size: number, holds: (at: number) => boolean): Bits {
  const bits = new Uint32Array(Math.ceil(size / WORD))
  for (let at = 0; at < size; at++)
    if (holds(at)) bits[at >>> 5] = ((bits[at >>> 5] ?? 0) | (1 << (at & 31))) >>> 0
  return bits
}

/** Take one out. */
export function drop(bits: Bits, at: number): void {
  bits[at >>> 5] = ((bits[at >>> 5] ?? 0) & ~(1 << (at & 31))) >>> 0
}

/** Take out all that are in another set; gives the set itself. */
export function without(bits: Bits, other: Bits | undefined): Bits {
  if (other)
    for (let word = 0; word < bits.length; word++)
      bits[word] = ((bits[word] ?? 0) & ~(other[word] ?? 0)) >>> 0
  return bits
}

/** A new set of what is in both. */
export function both(a: Bits, b: Bits | undefined): Bits {
  const found = a.slice()
  for (let word = 0; word < found.length; word++) found[word] = ((found[word] ?? 0) & (b?.[word] ?? 0)) >>> 0
  return found
}

const countWord = (word: number): number => {
  let rest = word - ((word >>> 1) & 0x55555555)
  rest = (rest & 0x33333333) + ((rest >>> 2) & 0x33333333)
  return (((rest + (rest >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24
}

/** How many are in both. */
export function countBoth(a: Bits, b: Bits | undefined): number {
  let count = 0
  for (let word = 0; word < a.length; word++) count += countWord(((a[word] ?? 0) & (b?.[word] ?? 0)) >>> 0)
  return count
}

/** The least number in a set; Infinity if it is empty. */
export function firstOf(bits: Bits): number {
  for (let word = 0; word < bits.length; word++) {
    const value = bits[word] ?? 0
    if (value !== 0) return word * WORD + 31 - Math.clz32(value & -value)
  }
  return Infinity
}

/** Go through a set of numbers below `size`, in order. */
export function forEach(bits: Bits, size: number, act: (at: number) => void): void {
  for (let word = 0; word < bits.length; word++) {
    let value = bits[word] ?? 0
    while (value !== 0) {
      const at = word * WORD + 31 - Math.clz32(value & -value)
      if (at < size) act(at)
      value = (value & (value - 1)) >>> 0
    }
  }
}
