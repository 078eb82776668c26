/**
 * What each place writes on five keyboards: alone, with Shift, with AltGr; in the order of `PLACES`, † for a dead key.
 * Source: xkb-data 2.35.1 of Debian 12, `xkbcli compile-keymap --layout us` (gb, de, fr, se), levels 1 to 3. Where
 * xkb gives a place nothing, a blank stands.
 */
export const XKB = {
  us: [
    `\`1234567890-=qwertyuiop[]asdfghjkl;'\\<zxcvbnm,./`,
    `~!@#$%^&*()_+QWERTYUIOP{}ASDFGHJKL:"|>ZXCVBNM<>?`,
    `                                     |          `,
  ],
  uk: [
    `\`1234567890-=qwertyuiop[]asdfghjkl;'#\\zxcvbnm,./`,
    `¬!"£$%^&*()_+QWERTYUIOP{}ASDFGHJKL:@~|ZXCVBNM<>?`,
    `|¹²³€½¾{[]}\\†@ſe¶ŧ←↓→øþ††æßðđŋħ†ĸł†††|«»¢„“”µ•·†`,
  ],
  german: [
    `†1234567890ß†qwertzuiopü+asdfghjklöä#<yxcvbnm,.-`,
    `°!"§$%&/()=?†QWERTZUIOPÜ*ASDFGHJKLÖÄ'>YXCVBNM;:_`,
    `′¹²³¼½¬{[]}\\†@ſ€¶ŧ←↓→øþ†~æſðđŋħ†ĸł††’|»«¢„“”µ·…–`,
  ],
  french: [
    `²&é"'(-è_çà)=azertyuiop†$qsdfghjklmù*<wxcvbn,;:!`,
    `~1234567890°+AZERTYUIOP†£QSDFGHJKLM%µ>WXCVBN?./§`,
    `¬¹~#{[|\`\\^@]}æ«€¶ŧ←↓→øþ†¤@ßðđŋħ†ĸłµ††|ł»¢„“”†•·†`,
  ],
  swedish: [
    `§1234567890+†qwertyuiopå†asdfghjklöä'<zxcvbnm,.-`,
    `½!"#¤%&/()=?†QWERTYUIOPÅ†ASDFGHJKLÖÄ*>ZXCVBNM;:_`,
    `¶¡@£$€¥{[]}\\±@ſ€®þ←↓→œþ††ªßðđŋħ†ĸłøæ´|«»©„“”µ†·†`,
  ],
} as const
