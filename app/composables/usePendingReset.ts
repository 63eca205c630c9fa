/** Let a field go back to what is, when a change it asked for was held back and then left. */
export function usePendingReset(reset: () => void): void {
  const pending = usePendingEditStore()
  watch(
    () => pending.current,
    (now, before) => {
      if (now === null && before !== null) reset()
    },
  )
}
