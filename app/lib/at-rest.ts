import { keepSittings } from './history/sittings'
import { keepForOffline } from './offline'

/** What an open page does aside, once it has nothing else to do. */
export function atRest(rigs: ReturnType<typeof useRigStore>): void {
  keepSittings(rigs)
  void keepForOffline(rigs.settled)
  void useBackupFileStore().start()
}
