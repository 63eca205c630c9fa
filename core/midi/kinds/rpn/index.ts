import { parameterKind } from '../parameter'

/** Registered parameters, selected by controllers 100 (LSB) and 101 (MSB). */
export const rpn = parameterKind('rpn', [100, 101], 'standard')
