import type { CrateItem } from '../crate/schema.ts'

/** An item of a crate that was just brought in, for tests that need no source of it. */
export const plainItem = (change: Partial<CrateItem> = {}): CrateItem => ({
  id: 'gate',
  name: 'Gate',
  kind: 'prop',
  main: 'gate.obj',
  sources: [],
  reading: { links: {} },
  worklist: [],
  waivers: [],
  ...change,
})
