/** What the left and the right edge of a track stand for while its ride is drawn: decibels on top of its level, or the sides. */
export const EDGES = { level: [-48, 12], pan: [-1, 1] } as const
