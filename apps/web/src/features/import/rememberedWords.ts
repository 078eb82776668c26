import { CATEGORIES, type Category } from '@yodel/core'
import { z } from 'zod'

const KEY = 'categoryWords'
const schema = z.record(z.string(), z.enum(CATEGORIES))

/** What words mean that sheets of others use for categories, in lower case, as somebody said here before. */
export function rememberedWords(): Readonly<Record<string, Category>> {
  try {
    return schema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'))
  } catch {
    // Written by hand or by another version: asked anew.
    return {}
  }
}

/** Remembers what a word means. @returns all that are known now */
export function rememberWord(word: string, category: Category): Readonly<Record<string, Category>> {
  const words = { ...rememberedWords(), [word.toLowerCase()]: category }
  localStorage.setItem(KEY, JSON.stringify(words))
  return words
}
