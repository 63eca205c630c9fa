import { chooseColours, type Chosen, type ChooseWanted } from '#core/lights'

/** Choosing of colours as the page sees it, wherever it runs. */
export interface Chooser {
  choose: (wanted: ChooseWanted) => Chosen
}

export const createChooser = (): Chooser => ({ choose: chooseColours })
