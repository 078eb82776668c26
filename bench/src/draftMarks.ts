/** Which recordings of the demo's shelves are right for a cue, by the beginnings of their names. */
export interface Mark {
  readonly words: string
  readonly right: RegExp
}

/**
 * Marks for the demo's two reels, made by a person before anything was ranked. Cues for which there is no recording
 * (lines, music, a kettle's handle, a bench) have none. Every other one is held back until the last measurement.
 */
export const MARKS: Readonly<Record<'demo-reel-1' | 'demo-reel-2', readonly Mark[]>> = {
  'demo-reel-1': [
    { words: 'Rain on the yard, steady, slate roof near', right: /^Rain on slate, wide/ },
    { words: 'Wind in the cutting behind it', right: /^Wind over the cutting/ },
    { words: 'Signalman walks up the yard, gravel', right: /^(Boot|Walk) on gravel/ },
    { words: 'Signal box door pulled shut', right: /^Signal box door/ },
    { words: 'Rain goes indoors', right: /^Rain on slate, inside/ },
    { words: 'Signal box, almost nothing', right: /^Room tone, signal box/ },
    { words: 'He crosses to the frame, boards', right: /^(Boot|Walk|Light step|Light walk) on boards/ },
    { words: 'Block bell, two beats', right: /^Block bell/ },
    { words: 'Sleeve and reach to lever four', right: /^Coat sleeve reach/ },
    { words: 'Lever four thrown', right: /^(Ground frame lever|Lever throws|Lever rack|Lever, quick)/ },
    { words: 'Sleeve again', right: /^Coat sleeve reach/ },
    { words: 'Lever seven thrown, heavier', right: /^(Ground frame lever|Lever throws|Lever rack)/ },
    { words: 'Lever nine thrown, frame clanks home', right: /^(Ground frame lever|Lever throws|Lever rack)/ },
    { words: 'Spring rings out', right: /^Spring/ },
    { words: 'Block bell, three beats', right: /^Block bell/ },
    { words: 'Kettle on the simmer, rising', right: /^Kettle (simmer|to the boil)/ },
    { words: 'Lid dances', right: /^Kettle lid/ },
    { words: 'Tea poured', right: /^Tea into/ },
    { words: 'Rain on the pane, close', right: /^Rain on window/ },
    { words: 'Sits down, chair answers', right: /^Chair creak/ },
    { words: 'Nib on the register, two lines', right: /^Nib on/ },
    { words: 'Pen dropped on the register', right: /^Pen dropped/ },
    { words: 'Register shut', right: /^Register closed/ },
    { words: 'Engine whistle, short, far to near', right: /^(Engine|Shunter) whistle/ },
    { words: 'Goods train passes, left to right', right: /^(Goods train passes|Wagons pass, left)/ },
    { words: 'Rain on the line, open', right: /^Rain on slate, wide/ },
    { words: 'The night closes behind the train', right: /^Drone/ },
    { words: 'Waiting room, empty, tiled', right: /^Room tone, waiting room/ },
    { words: 'Station clock', right: /^Station clock/ },
    { words: 'Wall telephone rings', right: /^Wall telephone/ },
    { words: 'Rings again, nobody', right: /^Wall telephone/ },
    { words: 'Waiting room door falls to', right: /^Signal box door/ },
    { words: 'Lamp gutters and dies', right: /^Oil lamp dies/ },
    { words: 'He walks off, slower than he came', right: /^(Boot|Walk) on (gravel|paving|boards)/ },
    { words: 'Signal arm drops to danger', right: /^Semaphore arm/ },
    { words: 'Thunder, far', right: /^Thunder (far|roll)/ },
  ],
  'demo-reel-2': [
    { words: 'Morning wind over the cutting, thin', right: /^Wind over the cutting/ },
    { words: 'Signalman comes along the platform, paving', right: /^(Boot|Walk) on paving/ },
    { words: 'Waiting room door shut behind him', right: /^Signal box door/ },
    { words: 'Waiting room, empty, tiled', right: /^Room tone, waiting room/ },
    { words: 'Station clock', right: /^Station clock/ },
    { words: 'Wall telephone rings', right: /^Wall telephone/ },
    { words: 'Telephone, second ring', right: /^Wall telephone/ },
    { words: 'Signal box, stove low', right: /^Room tone, signal box/ },
    { words: 'Over the boards to the frame', right: /^(Boot|Walk|Light step|Light walk) on boards/ },
    { words: 'Block bell, two beats', right: /^Block bell/ },
    { words: 'Lever four thrown', right: /^(Ground frame lever|Lever throws|Lever rack|Lever, quick)/ },
    { words: 'Lever seven thrown, heavier', right: /^(Ground frame lever|Lever throws|Lever rack)/ },
    { words: 'Lever nine, and the frame answers', right: /^(Ground frame lever|Lever throws|Lever rack)/ },
    { words: 'Block bell, one beat: train entering section', right: /^Block bell/ },
    { words: 'Signal arm pulls off, wire and weight', right: /^(Semaphore arm|Single wire)/ },
    { words: 'Engine whistle, short', right: /^(Engine|Shunter) whistle/ },
    {
      words: 'The first train of the morning, left to right, over the minute',
      right: /^(Goods train passes|Wagons pass, left)/,
    },
    { words: 'Platform again, wind a little up', right: /^Wind over the cutting/ },
    { words: 'He walks off along the platform', right: /^(Boot|Walk) on paving/ },
    { words: 'Thunder, going away', right: /^Thunder/ },
  ],
}
