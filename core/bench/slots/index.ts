export { compareTemplates, templateMark, type TemplateDifference } from './compare'
export { readSlotMessage, slotBytes, type SlotMessage } from './exchange'
export { answer, HARDWARE_TROUBLES, TROUBLE_WORDS, type Hardware, type HardwareTrouble } from './hardware'
export { packed, sumToZero, unpacked } from './packed'
export {
  ANSWER_MS,
  fetchSlot,
  heard,
  storeSlot,
  waited,
  type Next,
  type Outcome,
  type Transfer,
} from './transfer'
