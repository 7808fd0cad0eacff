/** The nine stages of the job, in the order in which practitioners work. */
export const stages = ['intake', 'fit', 'mesh', 'surface', 'solids', 'motion', 'check', 'pack', 'trial'] as const
export type Stage = (typeof stages)[number]
