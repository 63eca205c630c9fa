/** Let a field go back to what is, when a change it asked for was held back and then left. */
export function useHeldReset(reset: () => void): void {
  const held = usePendingEditStore()
  watch(
    () => held.current,
    (now, before) => {
      if (now === null && before !== null) reset()
    },
  )
}
