import { parameterKind } from '../parameter'

/** Non-registered parameters, selected by controllers 98 (LSB) and 99 (MSB). */
export const nrpn = parameterKind('nrpn', [98, 99], 'nothing')
