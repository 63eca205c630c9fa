/** A DIN cable carries 31,250 bits a second, ten bits a byte (MIDI 1.0 Detailed Specification, "Hardware"). */
export const DIN_BYTES_PER_MS = 31_250 / 10 / 1000
