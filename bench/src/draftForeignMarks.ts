import type { Category } from '@yodel/core'

/** A cue, seconds that it lasts, and which recordings are right for it, by their paths. */
export interface ForeignMark {
  readonly category: Category
  readonly words: string
  readonly seconds: number
  readonly right: RegExp
}

const mark = (category: Category, words: string, seconds: number, right: RegExp): ForeignMark => ({
  ...{ category, words, seconds, right },
})

/**
 * A sheet of 60 cues that the Debian package ufoai-sound has recordings for, which nobody here named, with the right ones
 * marked before anything was ranked. Every other one is held back until the last measurement.
 */
export const FOREIGN_MARKS: readonly ForeignMark[] = [
  mark('BG', 'Arctic wind over the compound', 20, /arcticwind/),
  mark('FOL', 'Soldier walks through the snow', 5, /footsteps\/snow/),
  mark('BG', 'Night outside the fence, crickets', 25, /cricket|ufo_night/),
  mark('FX', 'Steel door opens', 2, /doors\/.*open/),
  mark('FX', 'Door shut behind him', 1.5, /doors\/.*close/),
  mark('FOL', 'Boots on metal grating', 4, /footsteps\/metal/),
  mark('BG', 'Generator hum in the basement', 18, /ambience\/(hum|alien-generator|droning)/),
  mark('BG', 'Lights buzz in the corridor', 12, /ambience\/(lights_loop|hum)/),
  mark('FX', 'Sparks from the cut cable', 1.5, /sparks|breakelectric|misc\/electro/),
  mark('FOL', 'She runs over stone slabs', 4, /footsteps\/stone/),
  mark('FX', 'Window glass smashed', 2, /breakglass/),
  mark('FOL', 'Steps on tiles, kitchen', 4, /footsteps\/(tile|linoleum)/),
  mark('FX', 'Wooden crate breaks', 1.5, /breakwood/),
  mark('FX', 'Pistol shot', 1, /bullet-pistol/),
  mark('FX', 'Pistol reloaded', 1.5, /reload-pistol/),
  mark('FX', 'Shotgun, one blast', 1.5, /bullet-shotgun/),
  mark('FX', 'Reloads the shotgun', 2, /reload-shotgun/),
  mark('FX', 'Bullet hits the wall', 0.8, /(bullet|nail)-impact/),
  mark('FX', 'Bullet hits the body', 0.8, /(bullet|nail)-bodyimpact/),
  mark('FOL', 'He hits the ground', 1, /hitground/),
  mark('DX', 'Man dies, short cry', 1.5, /maledeath/),
  mark('DX', 'Woman screams in the street', 2, /femscream|femaledeath|femdeath/),
  mark('FX', 'Grenade pin pulled', 0.6, /grenade-pin/),
  mark('FX', 'Grenade bounces over the floor', 1, /grenade-bounce/),
  mark('FX', 'Grenade explodes', 3, /explosion-grenade|weapons\/explosion\./),
  mark('FX', 'Explosion behind the hill', 4, /explosion/),
  mark('FX', 'Rocket fired from the roof', 2, /rocket-(human|plasma)|combat-rocket\.|reload-rocket/),
  mark('FX', 'Flamer, a long burst', 3, /flamer/),
  mark('BG', 'The barn on fire', 20, /ambience\/\w*fire/),
  mark('BG', 'Camp fire, small', 15, /ambience\/\w*fire/),
  mark('BG', 'Thunder rolls over the valley', 8, /thunder/),
  mark('BG', 'Fountain in the square', 20, /waterfontain|ambience\/water/),
  mark('BG', 'Water running in the ditch', 20, /ambience\/water/),
  mark('FOL', 'Wades into the water', 4, /footsteps\/(splash|water_in)/),
  mark('FX', 'Splash', 1, /splash|impact\/water/),
  mark('FX', 'Knife hits the plank', 0.8, /knife-impact/),
  mark('FX', 'Knife goes into the body', 0.8, /knife-bodyimpact/),
  mark('FX', 'Sword swings past', 1, /sword-fly|melee-swoosh/),
  mark('FX', 'Sword hits', 1, /sword-hit/),
  mark('FX', 'Taser', 1.5, /taser/),
  mark('FX', 'Laser shot, small', 1, /laser-(small|medium)/),
  mark('FX', 'Plasma hits the wall', 1, /plasma(ball)?-impact/),
  mark('FX', 'Diesel engine idles', 8, /diesel-idle/),
  mark('FX', 'Diesel moves off', 6, /diesel-move/),
  mark('FX', 'Diesel stops', 3, /diesel-stop/),
  mark('FX', 'Hover tank idling', 6, /hover-idle/),
  mark('DSG', 'Alien machinery, deep', 15, /alien(power)?machinery/),
  mark('BG', 'Pump in the mine', 15, /minepump/),
  mark('FX', 'Steam escapes from a pipe', 4, /steam/),
  mark('BG', 'Disco through the wall', 20, /disco/),
  mark('FX', 'News on the television', 10, /tv_news/),
  mark('FX', 'TV goes to static', 4, /tv_static/),
  mark('FX', 'Radio message comes in', 4, /radiomessage/),
  mark('FX', 'Alarm in the base', 5, /basealert/),
  mark('FX', 'Keypad beeps', 0.6, /ui\/beep/),
  mark('FX', 'Switch clicks', 0.4, /ui\/click/),
  mark('FOL', 'Up the gravel path', 5, /footsteps\/gravel/),
  mark('FOL', 'Carpet, somebody walks', 4, /footsteps\/carpet/),
  mark('FX', 'The old beam creaks', 2, /creak/),
  mark('FOL', 'Through high grass', 5, /footsteps\/grass/),
]
