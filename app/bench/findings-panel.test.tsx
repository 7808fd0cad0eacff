import { screen, within } from '@testing-library/react'
import { describe, expect, it, vi } from 'vitest'
import { judge, type JudgedFinding } from '../../core/crate/waivers'
import type { Question } from '../../core/questions/question'
import type { Finding, Severity } from '../../core/rules/rule'
import type { Stage } from '../../core/support/stages'
import { crateOf, entryOf, itemOf, showInCrate } from '../test-support/in-crate'
import { FindingsPanel } from './findings-panel'

const finding = (rule: string, severity: Severity, where: string, more: Partial<Finding> = {}): Finding => ({
  rule,
  severity,
  stage: 'mesh',
  title: `About ${rule}.`,
  where,
  place: { parts: [], bounds: null, spots: [], texture: null },
  value: '',
  limit: '',
  message: `${where} has ${rule}.`,
  why: 'Games are so.',
  mend: null,
  ...more,
})
const withNames = { step: 'clean-names', label: 'Clean names', parameters: {} }
const gate = itemOf('Gate', { worklist: [entryOf('step-1', 'weld')] })

async function shown(
  findings: readonly JudgedFinding[],
  more: { stage?: Stage; ran?: boolean; questions?: Question[] } = {},
) {
  const hands = { onShow: vi.fn(), onMend: vi.fn(), onOpenStep: vi.fn(), onAnswer: vi.fn() }
  const page = await showInCrate(
    <FindingsPanel
      item={gate}
      findings={findings}
      stage={more.stage ?? 'check'}
      ran={more.ran ?? true}
      questions={more.questions ?? []}
      {...hands}
    />,
    crateOf(gate),
  )
  return { ...page, ...hands }
}

const list = (): HTMLElement => screen.getByRole('list', { name: 'Findings list' })
const linesOf = (): string[] =>
  [...list().children].map((line) => /About ([a-z-]+)/.exec(line.textContent)?.[1] ?? line.textContent)
const button = (name: string): HTMLElement => screen.getByRole('button', { name })

describe('the findings of an item', () => {
  it('say that nothing was found, that it is being read, and nothing of both', async () => {
    await shown([])
    expect(list().textContent).toContain('The game would take this item.')
  })

  it('say nothing of the item while it is being read', async () => {
    await shown([], { ran: false })
    expect(list().textContent).toBe('The item is being read.')
  })

  it('are counted and told worst first', async () => {
    await shown(
      judge(
        [finding('grain', 'note', 'arch'), finding('holes', 'blocks', 'arch'), finding('rust', 'risky', 'leaf')],
        [],
      ),
    )
    expect(linesOf()).toEqual(['holes', 'rust', 'grain'])
    expect(screen.getByText('1 block · 1 risky · 1 note')).toBeDefined()
  })

  it('begin with those of the stage that one is at', async () => {
    const found = [finding('holes', 'blocks', 'arch'), finding('blur', 'note', 'stone', { stage: 'surface' })]
    await shown(judge(found, []), { stage: 'surface' })
    expect(linesOf()).toEqual(['blur', 'holes'])
    expect(screen.getByText('Findings, Surface first')).toBeDefined()
  })

  it('are one line a trouble, and are mended all at once', async () => {
    const names = ['arch', 'leaf', 'post', 'sill'].map((where) =>
      finding('bad-name', 'blocks', where, { mend: withNames }),
    )
    const { user, onMend } = await shown(judge(names, []))
    expect(linesOf()).toEqual(['bad-name'])
    expect(list().textContent).toContain('4 times: arch, leaf, post and 1 more')
    await user.click(button('Mend all: Clean names'))
    expect(onMend.mock.calls).toEqual([[withNames]])
  })

  it('open into their places, each with hands of its own', async () => {
    const bounds = { min: [0, 0, 0], max: [1, 1, 1] } as Finding['place']['bounds']
    const holes = ['arch', 'leaf'].map((where) =>
      finding('holes', 'risky', where, { place: { parts: [where], bounds, spots: [], texture: null } }),
    )
    const { user, onShow } = await shown(judge(holes, []))
    const head = screen.getByRole('button', { name: /About holes/ })
    expect(head.getAttribute('aria-expanded')).toBe('false')
    await user.click(head)
    const leaf = screen.getByText('leaf has holes.').closest('li') as HTMLElement
    await user.click(within(leaf).getByRole('button', { name: 'Show me' }))
    expect(onShow.mock.calls[0][0]).toMatchObject([{ where: 'leaf' }])
  })

  it('do not list a thousand places', async () => {
    const many = Array.from({ length: 100 }, (_, number) => finding('bad-name', 'blocks', `part ${number}`))
    const { user } = await shown(judge(many, []))
    await user.click(screen.getByRole('button', { name: /About bad-name/ }))
    expect(screen.getByText('and 40 more')).toBeDefined()
    expect(screen.queryByText('part 60 has bad-name.')).toBeNull()
  })

  it('open the step that is there already, in place of putting it a second time', async () => {
    const mend = { step: 'weld', label: 'Weld', parameters: {} }
    const { user, onMend, onOpenStep } = await shown(judge([finding('seams', 'risky', 'arch', { mend })], []))
    await user.click(button('Open the step'))
    expect(onOpenStep.mock.calls).toEqual([['step-1']])
    expect(onMend).not.toHaveBeenCalled()
  })
})

describe('a finding that may stay', () => {
  it('is waived with a reason that the crate keeps', async () => {
    const { user, commands } = await shown(judge([finding('rust', 'risky', 'leaf')], []))
    await user.click(button('Waive'))
    const reason = await screen.findByRole('textbox', { name: 'Why it may stay' })
    expect(screen.getByRole('dialog').textContent).toContain('The loader goes on complaining')
    await user.type(reason, ' It is meant so. ')
    await user.click(button('Waive it'))
    expect(commands()).toEqual([
      { do: 'waive', item: 'gate', waiver: { rule: 'rust', where: 'leaf', reason: 'It is meant so.' } },
    ])
  })

  it('is told that the loader refuses it all the same, where it blocks', async () => {
    const { user } = await shown(judge([finding('holes', 'blocks', 'arch')], []))
    await user.click(button('Waive'))
    expect((await screen.findByRole('dialog')).textContent).toContain('The loader refuses it all the same')
  })

  it('is left as it was by Cancel', async () => {
    const { user, commands } = await shown(judge([finding('rust', 'risky', 'leaf')], []))
    await user.click(button('Waive'))
    await screen.findByRole('dialog')
    await user.click(button('Cancel'))
    expect(screen.queryByRole('dialog')).toBeNull()
    expect(commands()).toEqual([])
  })

  it('is waived at all its places with one reason', async () => {
    const { user, commands } = await shown(
      judge([finding('rust', 'risky', 'leaf'), finding('rust', 'risky', 'post')], []),
    )
    await user.click(button('Waive all'))
    await user.type(await screen.findByRole('textbox', { name: 'Why it may stay' }), 'Old iron')
    await user.click(button('Waive it'))
    await vi.waitFor(() => expect(commands()).toHaveLength(2))
    expect(commands().map((command) => (command.do === 'waive' ? command.waiver.where : ''))).toEqual(['leaf', 'post'])
  })

  it('comes last, with its reason, and is taken back', async () => {
    const found = [finding('rust', 'risky', 'leaf'), finding('grain', 'note', 'arch')]
    const { user, commands } = await shown(judge(found, [{ rule: 'rust', where: 'leaf', reason: 'Old iron' }]))
    expect(linesOf()).toEqual(['grain', 'rust'])
    expect(list().textContent).toContain('waived: Old iron')
    expect(screen.getByText('0 block · 0 risky · 1 note')).toBeDefined()
    await user.click(button('Take back'))
    expect(commands()).toEqual([{ do: 'unwaive', item: 'gate', rule: 'rust', where: 'leaf' }])
  })

  it('is no note: of those the loader is silent', async () => {
    await shown(judge([finding('grain', 'note', 'arch')], []))
    expect(screen.queryByRole('button', { name: 'Waive' })).toBeNull()
  })
})

describe('a finding that somebody has to decide', () => {
  const question: Question = {
    id: 'unit',
    title: 'How large is it?',
    why: 'The file does not say.',
    decides: ['size'],
    answers: ['1 m', '1 cm'].map((label, number) => ({
      id: `answer-${number}`,
      label,
      note: `It would be ${label}.`,
      picture: null,
      change: {},
    })),
    chosen: 'answer-0',
    answered: false,
  }

  it('has the answers beside it, the one that is taken pressed', async () => {
    const { user, onAnswer } = await shown(judge([finding('size', 'risky', 'item')], []), { questions: [question] })
    const answers = within(screen.getByRole('group', { name: 'How large is it?' }))
    expect(answers.getByRole('button', { name: '1 m' }).getAttribute('aria-pressed')).toBe('true')
    await user.click(answers.getByRole('button', { name: '1 cm' }))
    expect(onAnswer.mock.calls).toEqual([[question, question.answers[1]]])
  })

  it('is not asked again when it was answered', async () => {
    await shown(judge([finding('size', 'risky', 'item')], []), { questions: [{ ...question, answered: true }] })
    expect(screen.queryByRole('group', { name: 'How large is it?' })).toBeNull()
  })
})
