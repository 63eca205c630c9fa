import * as z from 'zod/mini'
import { or, Wanted, whole } from '../../schema'
import { ABSOLUTE, Behaviour, FourteenRange, FULL_FOURTEEN, placed } from '../parts'

const MsbNumber = whole(1, 31).check(
  z.refine((number) => number !== 6, 'must not be 6, which carries NRPN and RPN data'),
)

export const message = z.strictObject({
  kind: z.literal('cc14'),
  ...placed,
  number: z.union([MsbNumber, Wanted]),
  range: or(FourteenRange, FULL_FOURTEEN),
  behaviour: or(Behaviour, ABSOLUTE),
  halves: or(z.enum(['both', 'lsb-while-msb-same', 'msb-only']), 'both'),
})
export const target = z.strictObject({ kind: z.literal('cc14'), number: MsbNumber })
