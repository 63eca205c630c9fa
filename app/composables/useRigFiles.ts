import { useFileDialog } from '@vueuse/core'

/** Offer a text as a file to keep. */
export const saveText = (name: string, text: string, mediaType: string): void =>
  saveBlob(name, new Blob([text], { type: `${mediaType};charset=utf-8` }))

/** Offer bytes as a file to keep. */
export function saveBlob(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** So long a name every file system takes, in whatever script. */
const MOST_NAME = 60

/** A name that every file system takes: the letters and digits of any script. */
export function fileName(name: string, extension: string): string {
  const plain = name
    .normalize('NFC')
    .replace(/[^\p{L}\p{M}\p{N}\s_-]/gu, '')
    .trim()
    .replace(/\s+/g, '-')
    .toLowerCase()
  return `${[...plain].slice(0, MOST_NAME).join('') || 'rig'}.${extension}`
}

/** Bring rigs in from files and take the open one out. */
export function useRigFiles() {
  const shelf = useShelfStore()
  const rigs = useRigStore()
  const dialog = useFileDialog({ accept: '.json,application/json', multiple: false, reset: true })
  dialog.onChange((files) => {
    const file = files?.[0]
    if (file) void shelf.importFile(file)
  })
  async function exportRig(): Promise<void> {
    const { rig } = rigs
    if (!rig) return
    const { writeRig } = await import('#core/rig/parse')
    saveText(fileName(rig.name, 'json'), writeRig(rig), 'application/json')
  }
  return { chooseFile: () => dialog.open(), exportRig }
}
