export { Message, MESSAGE_KINDS } from '../../midi/kinds/schemas'
export {
  Behaviour,
  Keys,
  Moment,
  RELATIVE_ENCODINGS,
  RelativeEncoding,
  SevenRange,
} from '../../midi/kinds/parts'
