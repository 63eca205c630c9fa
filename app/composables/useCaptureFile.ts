import { useFileDialog } from '@vueuse/core'

/** Choose a capture to be opened. */
export function useCaptureFile(): () => void {
  const capture = useCaptureStore()
  const dialog = useFileDialog({
    accept: '.mid,.midi,.csv,.syx,.bin,.raw,audio/midi,text/csv',
    multiple: false,
    reset: true,
  })
  dialog.onChange((files) => {
    const file = files?.[0]
    if (file) void capture.open(file)
  })
  return () => dialog.open()
}
