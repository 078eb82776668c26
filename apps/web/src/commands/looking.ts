import { nextCloser, WHOLE_PICTURE } from '../document/closer.js'
import { keepWidth, nextWidth, widestWithPane } from '../document/pictureWidth.js'
import { closerKeyOf, viewActions, type PaneName } from '../document/viewSlice.js'
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
      makeRoom()
      dispatch(viewActions.showPane('sounds'))
      parts.ask('search', (search) => search.focus())
    },
    /** Lets a time be typed to go to. */
    typeTime: () => parts.ask('timecode', (timecode) => timecode.type()),
    /** Shows something at the right, or, if it is shown, the sounds again; the sounds themselves give way to the Sheet. */
    pane: (name: PaneName) => {
      const wasHidden = makeRoom()
      const isShown = !wasHidden && state().view.pane === name
      dispatch(viewActions.showPane(!isShown ? name : name === 'sounds' ? null : 'sounds'))
    },
    guide: () => void dispatch(viewActions.setGuide(state().view.guide > 0 ? 0 : 1)),
    /** The picture small, large, as large as it gets, in turn. */
    pictureSize: () => {
      const width = nextWidth(state().view.pictureWidth, innerWidth)
      keepWidth(width)
      dispatch(viewActions.setPictureWidth(width))
    },
    fit: () => void dispatch(viewActions.toggleFit()),
    /** The picture whole, twice, four times as large, in turn, for the cue that is selected. */
    closer: () => {
      const key = closerKeyOf(state())
      const closer = nextCloser(state().view.closers[key] ?? WHOLE_PICTURE)
      dispatch(viewActions.setCloser({ key, closer }))
    },
    strip: () => void dispatch(viewActions.toggleStrip()),
    overview: () => void dispatch(viewActions.toggleOverview()),
    palette: () => void dispatch(viewActions.setPalette(true)),
    keys: () => void dispatch(viewActions.setHelp(true)),
    pictureWindow: openPictureWindow,
    /** Asks something of the pane of sounds, where it is shown. */
    results: () => parts.get('results'),
  }
}
