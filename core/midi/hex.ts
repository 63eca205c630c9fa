/** Bytes as two hexadecimal digits each, with blanks between. */
export const hexOf = (bytes: readonly number[]): string =>
  bytes.map((byte) => byte.toString(16).padStart(2, '0').toUpperCase()).join(' ')
