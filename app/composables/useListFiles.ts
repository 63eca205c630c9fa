import type { NameDocument } from '#core/midi/names'
import type { PropertyDocument } from '#core/midi/properties'

/** Keep lists of a controller or destination as files that other programs read. */
export function useListFiles() {
  async function saveNames(name: string, names: NameDocument): Promise<void> {
    const { writeNames } = await import('#core/midi/names')
    saveText(fileName(name, 'midnam'), writeNames(names), 'application/xml')
  }
  async function saveProperties(name: string, properties: PropertyDocument): Promise<void> {
    const { writeProperties } = await import('#core/midi/properties')
    saveText(fileName(name, 'midi-ci.json'), writeProperties(properties), 'application/json')
  }
  return { saveNames, saveProperties }
}
