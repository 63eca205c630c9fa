export { cutPart, PART_WORDS, type Part, type PartRef } from './cut'
export { PART_FORMAT, PART_VERSION, parsePart, readPart, writePart, type PartResult } from './file'
export { takeIn, type TakenIn } from './take-in'
export { takeInPlaceOf } from './replace'
