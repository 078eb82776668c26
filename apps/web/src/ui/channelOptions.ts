import { channelChoices, channelWords } from '@yodel/core'

/** What can be heard of a recording of so many channels, for a choice. */
export const channelOptions = (channels: number): (readonly [string, string])[] =>
  channelChoices(channels).map((choice) => [choice, channelWords(choice, channels)] as const)
