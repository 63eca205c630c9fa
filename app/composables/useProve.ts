/** In which way the rig is proven. */
export type ProveTab = 'rehearse' | 'teach' | 'line' | 'slots' | 'recipes'

/** The same for whoever leads there. */
export const useProve = () => useState<ProveTab>('prove-tab', () => 'rehearse')

/** Go to one way of proving the rig, on the Bench. */
export function useGoProve(): (tab: ProveTab) => Promise<void> {
  const prove = useProve()
  const side = useBenchSide()
  return async (tab) => {
    prove.value = tab
    side.value = 'prove'
    await navigateTo('/bench')
  }
}
