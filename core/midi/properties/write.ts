import { SEVEN_MAX } from '../ranges'
import { toJson } from '../written'
import type { PropertyControl, PropertyDocument } from './document'
import { widened } from './scale'

const SEVEN_BITS = 7
/** No maker’s: for use within one place (Universal SysEx, non-commercial). */
const NO_MAKER = [0x7d, 0, 0]

const halves = (number: number): number[] => [number >> SEVEN_BITS, number & SEVEN_MAX]

function indexOf({ kind, number }: PropertyControl): number[] | undefined {
  switch (kind) {
    case 'cc':
      return [number]
    case 'nrpn':
    case 'rpn':
      return halves(number)
    case 'pBend':
    case 'chPress':
    case 'pPress':
      return undefined
  }
}

function controlOf(control: PropertyControl): Record<string, unknown> {
  const { title, kind, channel, transmit, recognize, bits, steps, range } = control
  return {
    title,
    ctrlType: kind,
    ctrlIndex: indexOf(control),
    channel: channel ?? undefined,
    transmit,
    recognize,
    numSigBits: bits,
    stepCount: steps ?? undefined,
    minMax: range ? [widened(range.low, bits), widened(range.high, bits)] : undefined,
  }
}

/**
 * The resources of a device as one JSON object, each under its name as an inquiry asks for it, so that each can be handed on by itself.
 * Numbers of three parts are arrays, as property exchange has them.
 */
export function writeProperties({ device, channels, controls, programs }: PropertyDocument): string {
  const resources = {
    DeviceInfo: device
      ? {
          manufacturerId: NO_MAKER,
          familyId: [0, 0],
          modelId: [0, 0],
          versionId: [0, 0, 0, 0],
          ...device,
        }
      : undefined,
    ChannelList: channels.map(({ title, channel }) => ({ title, channel })),
    AllCtrlList: controls.map(controlOf),
    ProgramList: programs.map(({ title, bank, number }) => ({ title, bankPC: [bank.msb, bank.lsb, number] })),
  }
  return `${toJson(resources, 2)}\n`
}
