import { XMLBuilder } from 'fast-xml-parser'
import type { NameDocument, NamedBank, NamedControl } from './document'

const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  format: true,
  suppressEmptyNode: true,
  suppressBooleanAttributes: false,
})

/** What XML 1.0 (section 2.2) does not allow, or a reader would not give back. */
const FORBIDDEN = /\p{Cc}|\p{Cs}|[\ufffe\uffff]/gu

/** Names have their spaces as a reader of attributes sees them: one blank for each. */
const clean = (text: string): string => text.replace(/\s/g, ' ').replace(FORBIDDEN, '')

const named = ({ number, name }: { number: number; name: string }) => ({
  '@Number': number,
  '@Name': clean(name),
})

function controlNode(control: NamedControl): object {
  const { min, max, values } = control
  const hasValues = min !== null || max !== null || values.length > 0
  return {
    '@Type': control.type,
    ...named(control),
    ...(hasValues
      ? {
          Values: {
            ...(min === null ? {} : { '@Min': min }),
            ...(max === null ? {} : { '@Max': max }),
            ValueNameList: {
              Value: values.length > 0 ? values.map(named) : [{ '@Number': min ?? max ?? 0, '@Name': '' }],
            },
          },
        }
      : {}),
  }
}

const bankNode = ({ name, select, patches }: NamedBank): object => ({
  '@Name': clean(name),
  ...(select
    ? {
        MIDICommands: {
          ControlChange: [
            { '@Control': 0, '@Value': select.msb },
            { '@Control': 32, '@Value': select.lsb },
          ],
        },
      }
    : {}),
  PatchNameList: {
    '@Name': clean(name),
    Patch: patches.map(({ label, number, name: own }) => ({
      '@Number': clean(label),
      '@Name': clean(own),
      '@ProgramChange': number,
    })),
  },
})

const SET = 'All channels'

/** Write a MIDI Name Document: one name set for all channels, with the lists in the order of the standard. */
export function writeNames({ author, manufacturer, model, controls, notes, banks }: NameDocument): string {
  const document = {
    '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
    MIDINameDocument: {
      ...(author === '' ? {} : { Author: clean(author) }),
      MasterDeviceNames: {
        Manufacturer: clean(manufacturer),
        Model: clean(model),
        CustomDeviceMode: {
          '@Name': 'Default',
          ChannelNameSetAssignments: {
            ChannelNameSetAssign: Array.from({ length: 16 }, (_, index) => ({
              '@Channel': index + 1,
              '@NameSet': SET,
            })),
          },
        },
        ChannelNameSet: {
          '@Name': SET,
          AvailableForChannels: {
            AvailableChannel: Array.from({ length: 16 }, (_, index) => ({
              '@Channel': index + 1,
              '@Available': 'true',
            })),
          },
          ...(notes.length > 0 ? { NoteNameList: { '@Name': 'Notes', Note: notes.map(named) } } : {}),
          ...(controls.length > 0
            ? { ControlNameList: { '@Name': 'Controls', Control: controls.map(controlNode) } }
            : {}),
          ...(banks.length > 0 ? { PatchBank: banks.map(bankNode) } : {}),
        },
      },
    },
  }
  const [head = '', ...rest] = String(builder.build(document)).split('\n')
  return [head, '<!DOCTYPE MIDINameDocument>', ...rest].join('\n')
}
