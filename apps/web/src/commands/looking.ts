import { keepWidth, nextWidth, widestWithPane } from '../document/pictureWidth.js'
import { viewActions } from '../document/viewSlice.js'
import { openPictureWindow } from '../picture/otherWindow.js'
import type { CommandContext } from './context.js'

/** What is shown on the page, and where the keyboard goes. */
export function lookingCommands({ dispatch, state, parts }: CommandContext) {
  /** A picture that is so large that no pane has room beside it gives way. @returns whether it did */
  const makeRoom = (): boolean => {
    const widest = widestWithPane(innerWidth)
    const isLarge = state().view.pictureWidth > widest
    if (isLarge) dispatch(viewActions.setPictureWidth(widest))
    return isLarge
  }
  return {
    /** Takes the keyboard to the search, opening the pane of sounds where it is not shown. */
    search: () => {
      const { showSounds, showBalance } = state().view
      makeRoom()
      if (showBalance || !showSounds) dispatch(viewActions.toggleSounds())
      parts.ask('search', (search) => search.focus())
    },
    /** Lets a time be typed to go to. */
    typeTime: () => parts.ask('timecode', (timecode) => timecode.type()),
    balance: () => {
      const wasHidden = makeRoom()
      if (!(wasHidden && state().view.showBalance)) dispatch(viewActions.toggleBalance())
    },
    sounds: () => {
      const wasHidden = makeRoom()
      const { showSounds, showBalance } = state().view
      if (!(wasHidden && showSounds && !showBalance)) dispatch(viewActions.toggleSounds())
    },
    guide: () => void dispatch(viewActions.setGuide(state().view.guide > 0 ? 0 : 1)),
    /** The picture small, large, as large as it gets, in turn. */
    pictureSize: () => {
      const width = nextWidth(state().view.pictureWidth, innerWidth)
      keepWidth(width)
      dispatch(viewActions.setPictureWidth(width))
    },
    fit: () => void dispatch(viewActions.toggleFit()),
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
