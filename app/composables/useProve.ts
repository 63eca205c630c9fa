/** In which way the rig is proven. */
export type ProveTab = 'rehearse' | 'teach' | 'line' | 'slots' | 'recipes'

/** The same for whoever leads there. */
export const useProve = () => useState<ProveTab>('prove-tab', () => 'rehearse')
