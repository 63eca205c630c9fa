import { useFileDialog } from '@vueuse/core'

/** Choose a file of raw SysEx. */
export function useSyxFile(take: (file: File) => void): () => void {
  const dialog = useFileDialog({ accept: '.syx,application/octet-stream', multiple: false, reset: true })
  dialog.onChange((files) => {
    const file = files?.[0]
    if (file) take(file)
  })
  return () => dialog.open()
}
