import { chooseColours, type Chosen, type ChooseWanted } from '#core/lights'

/** Choosing of colours as the page sees it, wherever it runs. */
export interface Chooser {
  choose: (wanted: ChooseWanted) => Chosen
}

/** Choosing of colours, to be run in a worker. */
export const createChooser = (): Chooser => ({ choose: chooseColours })
