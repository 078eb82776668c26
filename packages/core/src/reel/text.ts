import { z } from 'zod'

// Everything that is neither a letter nor a sign nor a line break or tab: a NUL can't be stored at all, the others
// break lists and printed pages. A surrogate without its other half is no character of Unicode (chapter 3.9, D75).
const UNFIT =
  // eslint-disable-next-line no-control-regex
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/
const UNFIT_ALL = new RegExp(UNFIT, 'g')

/** Says whether a text holds nothing that can't be stored, shown or printed. */
export const isPlain = (text: string): boolean => !UNFIT.test(text)

/** A text without its control characters and halves of characters; line breaks and tabs stay. */
export const plain = (text: string): string => (isPlain(text) ? text : text.replaceAll(UNFIT_ALL, ''))

/** A text as it may cross the wire. @param most - Longest length in UTF-16 units. */
export const plainText = (most: number): z.ZodString =>
  z
    .string()
    .max(most)
    .refine(isPlain, 'holds control characters or half a character; take them out') as z.ZodString
