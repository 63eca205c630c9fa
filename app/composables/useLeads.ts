import { rigIndex, parameterOf } from '#core/rig'
import type { Lead } from '#core/sheets'

/** Go to what a line of a sheet speaks of: on the Desk where it is played, in Rig where it is joined. */
export function useLeads(): (lead: Lead) => Promise<void> {
  const rigs = useRigStore()
  const desk = useDeskStore()
  const joining = useJoiningStore()
  const preferences = usePreferencesStore()
  const picture = usePictureStore()
  return async (lead) => {
    switch (lead.kind) {
      case 'place':
        desk.goTo(lead.place)
        await navigateTo('/desk')
        return
      case 'parameter': {
        const destination = rigs.rig && rigIndex(rigs.rig).destinations.get(lead.destination)
        joining.choose(lead.destination)
        joining.query = (destination && parameterOf(destination, lead.parameter)?.name) ?? ''
        preferences.lens = 'destinations'
        await navigateTo('/desk')
        return
      }
      case 'lattice':
        desk.bus = lead.bus
        desk.family = lead.family
        desk.isListing = false
        desk.zoomed = lead.channel
        preferences.lens = 'addresses'
        await navigateTo('/desk')
        return
      case 'controller':
        desk.chooseController(lead.id)
        await navigateTo('/desk')
        return
      default:
        picture.close()
        picture.select({ kind: lead.kind, id: lead.id })
        await navigateTo('/rig')
    }
  }
}
