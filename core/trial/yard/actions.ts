/** What the figure can be told to do, besides walking. */
export const yardActions = ['take', 'throw', 'ball', 'hit', 'use', 'drop-another'] as const
export type YardAction = (typeof yardActions)[number]
