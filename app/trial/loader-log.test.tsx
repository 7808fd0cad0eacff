import { screen } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { LogLine } from '../../core/trial/log'
import { runId, useRuns, type ItemRun } from '../queries/runs'
import { crateOf, itemOf, showInCrate } from '../test-support/in-crate'
import { LoaderLog } from './loader-log'

const asked = vi.hoisted(() => ({ mend: [] as unknown[] }))
vi.mock('../crate/use-bench-jobs', () => ({
  useBenchJobs: () => ({ mend: (mend: unknown) => asked.mend.push(mend) }),
}))

const line = (code: string, level: LogLine['level'], message: string, item: string | null = null): LogLine => ({
  code,
  level,
  message,
  file: 'items/props/gate/gate.glb',
  item,
})
const gate = itemOf('Gate')
const shown = (log: readonly LogLine[] | null) => showInCrate(<LoaderLog log={log} />, crateOf(gate))
const list = (): HTMLElement => screen.getByRole('list', { name: 'The loader’s log' })

beforeEach(() => {
  asked.mend = []
  useRuns.setState({ runs: {} })
})

describe('the loader’s log', () => {
  it('says that nothing was loaded yet', async () => {
    await shown(null)
    expect(list().textContent).toBe('Nothing was loaded yet.')
  })

  it('says that there is no complaint', async () => {
    await shown([line('item.loaded', 'told', 'gate is there.')])
    expect(list().textContent).toContain('Not a word of complaint.')
    expect(screen.getByText('0 faults · 1 harmless')).toBeDefined()
  })

  it('tells what is refused before what is complained of, each with what it means', async () => {
    await shown([
      line('manifest.checksum', 'complaint', 'gate.glb was changed.'),
      line('entry.kind', 'refused', 'No such kind: boat.'),
    ])
    const [first, second] = list().children
    expect(first.textContent).toContain('No such kind: boat.')
    expect(first.textContent).toContain('The game has no such kind of thing.')
    expect(second.textContent).toContain('A file was changed after it was packed.')
    expect(screen.getByText('2 faults · 0 harmless')).toBeDefined()
  })

  it('folds what may stay until somebody wants to see it', async () => {
    const { user } = await shown([line('mesh.read', 'told', 'gate.glb: 400 triangles.')])
    expect(screen.queryByText('gate.glb: 400 triangles.')).toBeNull()
    await user.click(screen.getByRole('button', { name: /1 harmless message/ }))
    expect(screen.getByText(/gate.glb: 400 triangles/)).toBeDefined()
  })

  it('leads to where a line is mended', async () => {
    await shown([
      line('entry.kind', 'refused', 'No such kind.', 'gate'),
      line('manifest.file', 'refused', 'A file is not there.', 'gate'),
      line('mesh.triangles', 'refused', 'Too many triangles.', 'gate'),
    ])
    const links = screen.getAllByRole('link').map((link) => link.getAttribute('href'))
    expect(links[0]).toBe('/crate/otterby/item/gate/entry')
    expect(links[1]).toBe('/crate/otterby/pack')
    expect(links[2]).toMatch(/^\/crate\/otterby\/item\/gate\?stage=/)
  })

  it('leads nowhere from a line that is about no item of the crate', async () => {
    await shown([line('entry.kind', 'refused', 'No such kind.', 'wall')])
    expect(screen.queryByRole('link')).toBeNull()
  })

  it('offers the mend of the finding that said so before', async () => {
    const mend = { step: 'reduce', label: 'Reduce triangles', parameters: {} }
    const finding = {
      rule: 'triangle-budget',
      severity: 'blocks',
      stage: 'mesh',
      title: 'Too many triangles',
      where: 'gate',
      place: { parts: [], bounds: null, spots: [], texture: null },
      value: '',
      limit: '',
      message: 'gate has 38,098 triangles, the game takes 10,000.',
      why: '',
      mend,
    }
    useRuns.setState({
      runs: {
        [runId('otterby', 'gate')]: {
          state: 'done',
          together: [],
          evaluation: { findings: [finding] },
        } as unknown as ItemRun,
      },
    })
    const said = line('mesh.triangles', 'refused', 'gate has 38,098 triangles; the game takes 10,000.', 'gate')
    const { user } = await shown([said])
    await user.click(screen.getByRole('button', { name: 'Mend: Reduce triangles' }))
    expect(asked.mend).toEqual([mend])
  })
})
