import { viewActions } from '../document/viewSlice.js'
import { openPictureWindow } from '../picture/otherWindow.js'
import type { CommandContext } from './context.js'

/** What is shown on the page, and where the keyboard goes. */
export function lookingCommands({ dispatch, state, parts }: CommandContext) {
  return {
    /** Takes the keyboard to the search, opening the pane of sounds where it is not shown. */
    search: () => {
      const { showSounds, showBalance } = state().view
      if (showBalance || !showSounds) dispatch(viewActions.toggleSounds())
      parts.ask('search', (search) => search.focus())
    },
    /** Lets a time be typed to go to. */
    typeTime: () => parts.ask('timecode', (timecode) => timecode.type()),
    balance: () => void dispatch(viewActions.toggleBalance()),
    guide: () => void dispatch(viewActions.setGuide(state().view.guide > 0 ? 0 : 1)),
    strip: () => void dispatch(viewActions.toggleStrip()),
    overview: () => void dispatch(viewActions.toggleOverview()),
    history: () => void dispatch(viewActions.setHistory(true)),
    palette: () => void dispatch(viewActions.setPalette(true)),
    keys: () => void dispatch(viewActions.setHelp(true)),
    pictureWindow: openPictureWindow,
    /** Asks something of the pane of sounds, where it is shown. */
    results: () => parts.get('results'),
  }
}
