/** An edit that cannot be made, with a sentence for the player. The rig is as it was. */
export class EditError extends Error {
  override name = 'EditError'
}
