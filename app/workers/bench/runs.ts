import * as Comlink from 'comlink'
import { checkResult, ownSlot } from '../../../core/crate/evaluate'
import { pathRows } from '../../../core/crate/path-rows'
import { gameName } from '../../../core/crate/game-names'
import { togetherFacts } from '../../../core/operations/entry/together-facts'
import { partBounds } from '../../../core/item/measure'
import { listAllParts } from '../../../core/item/parts'
import { stepById, steps } from '../../../core/steps/registry'
import { prepareItem } from '../../../core/crate/prepare-item'
import { questionsOf } from '../../../core/crate/questions'
import { proposeStep, settingsAt, type StepProposal } from '../../../core/worklist/propose-step'
import { runWorklist, type RunOptions, type RunResult, type StartState } from '../../../core/worklist/run'
import type { CrateItem } from '../../../core/crate/schema'
import { buildScene } from '../build-scene'
import type { StepSettings } from '../field-messages'
import type { Evaluation, PreparedMessage, Scenes } from '../messages'
import { sceneTransfers } from '../scene-data'
import { sourceReport } from '../source-report'
import { openSession, pause, surveyOf, type OnProgress } from './session'

/** What the page is told of a result. */
function evaluationOf(
  item: CrateItem,
  from: StartState,
  result: RunResult,
  options: RunOptions,
  began: number,
): Evaluation {
  const { rulebook, kind } = options
  const survey = surveyOf(from, item)
  const itemName = gameName(item, rulebook)
  const slot = ownSlot(item, rulebook)
  return {
    key: result.key,
    outcomes: result.outcomes,
    ...checkResult(result, { ...options, itemName, slot }),
    facts: togetherFacts(result.document, rulebook, kind, itemName),
    source: sourceReport(survey),
    paths: pathRows({ item, itemName, slot }, from.document, result.document, rulebook),
    questions: questionsOf(item, from.document, rulebook, survey),
    steps: steps.map((step) => ({
      id: step.id,
      stage: step.stage,
      title: step.title,
      purpose: step.purpose,
      pixelwise: step.pixelwise === true,
    })),
    milliseconds: performance.now() - began,
  }
}

/** Running, preparing and filling in worklists. */
export const runs = {
  /** Runs an item's worklist from the first changed step, and checks the result. */
  async evaluate(
    rawItem: unknown,
    rawGame: unknown,
    withScenes: boolean,
    onProgress: OnProgress,
  ): Promise<{ evaluation: Evaluation; scenes: Scenes | null }> {
    const { item, options, start } = openSession(rawItem, rawGame, onProgress)
    const { rulebook, kind } = options
    const began = performance.now()
    const from = await start()
    const result = await runWorklist(from, item.worklist, options)
    const evaluation = evaluationOf(item, from, result, options, began)
    if (!withScenes) return { evaluation, scenes: null }
    const scenes = {
      source: await buildScene(from.document),
      result: await buildScene(result.document, { rulebook, kind }),
    }
    return Comlink.transfer({ evaluation, scenes }, [
      ...sceneTransfers(scenes.source),
      ...sceneTransfers(scenes.result),
    ])
  },

  /** Proposes a whole worklist for an item; what a person decided in the present one stays. */
  async prepare(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<PreparedMessage> {
    const { item, options, start } = openSession(rawItem, rawGame, onProgress)
    const began = performance.now()
    const from = await start()
    const { worklist, rounds, result } = await prepareItem(from, options, {
      decided: item.worklist.filter(({ byHand }) => byHand === true),
      itemName: gameName(item, options.rulebook),
      slot: ownSlot(item, options.rulebook),
    })
    const evaluation = evaluationOf({ ...item, worklist }, from, result, options, began)
    return { worklist, rounds, evaluation }
  },

  /** One step filled in for the item, and its place in the worklist. */
  async propose(
    rawItem: unknown,
    rawGame: unknown,
    step: string,
    overrides: Record<string, unknown>,
    onProgress: OnProgress,
  ): Promise<StepProposal> {
    const { item, options, start } = openSession(rawItem, rawGame, onProgress)
    return proposeStep(await start(), item.worklist, step, overrides, options)
  },

  /** Settings for a step of the item that name things as they are seen, with the names that those have there. */
  async mendSettings(
    rawItem: unknown,
    rawGame: unknown,
    entryId: string,
    parameters: Record<string, unknown>,
    onProgress: OnProgress,
  ): Promise<Record<string, unknown>> {
    const { item, options, start } = openSession(rawItem, rawGame, onProgress)
    const at = item.worklist.findIndex(({ id }) => id === entryId)
    if (at < 0) return parameters
    return settingsAt(await start(), item.worklist, { step: item.worklist[at].step, at }, parameters, options)
  },

  /** The steps that would propose themselves for the result as it stands. */
  async worthwhile(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<string[]> {
    const { options, start, result } = openSession(rawItem, rawGame, onProgress)
    const { images, official, hosts } = await start()
    const document = await result()
    const { rulebook, kind } = options
    const context = {
      document,
      rulebook,
      kind,
      images,
      official: (await official?.(kind)) ?? null,
      hosts: await hosts?.(kind),
    }
    const found: string[] = []
    for (const [index, step] of steps.entries()) {
      if (step.propose(context).length > 0) found.push(step.id)
      await pause(onProgress, 'Looking what would help', (index + 1) / steps.length)
    }
    return found
  },

  /** What can be set on a step that comes after so many others: made from the state that it is given. */
  async settings(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    step: string,
    onProgress: OnProgress,
  ): Promise<StepSettings> {
    const { options, start, after } = openSession(rawItem, rawGame, onProgress)
    const { rulebook, kind } = options
    const from = await start()
    const document = await after(steps)
    const fields = stepById(step).fields({
      document,
      rulebook,
      kind,
      images: from.images,
      hosts: await from.hosts?.(kind),
      source: from.document,
    })
    return {
      fields,
      parts: listAllParts(document).map((part) => ({
        name: part.name,
        role: part.extras.role,
        bounds: partBounds(part),
      })),
    }
  },
}
