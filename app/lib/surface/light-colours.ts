/** A light as a surface draws it: its colour, an ink that can be read on it, and the pattern of its role as a path. */
export interface SurfaceLight {
  colour: string
  ink: string
  pattern?: string | undefined
}

/** Is a colour bright enough for dark writing? (Rec. 709 luma of the sRGB values.) */
function isBright(colour: string): boolean {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16))
  return 0.2126 * r + 0.7152 * g + 0.0722 * b > 120
}

export const lightColours = (colour: string, pattern?: string): SurfaceLight => ({
  colour,
  pattern,
  ink: isBright(colour) ? '#101418' : '#f4f2ea',
})
