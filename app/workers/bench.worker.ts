import * as Comlink from 'comlink'
import { startKey, startOf } from '../../core/crate/bring-in'
import { checkResult } from '../../core/crate/evaluate'
import { itemSchema, type CrateItem } from '../../core/crate/schema'
import { kindOf, rulebookById } from '../../core/rulebook/load'
import { steps } from '../../core/steps/registry'
import type { WorklistEntry } from '../../core/worklist/entry'
import { prepareWorklist } from '../../core/worklist/prepare'
import { proposeStep, type StepProposal } from '../../core/worklist/propose-step'
import { runWorklist, type RunOptions, type StartState } from '../../core/worklist/run'
import { browserResults } from '../storage/results'
import { getSource } from '../storage/sources'
import { buildScene } from './build-scene'
import type { Evaluation, Progress, Scenes, SourceReport } from './messages'
import { sceneTransfers } from './scene-data'

import './browser-assets'
import { sourceReport } from './source-report'

/** Runs worklists and checks items. Sources and results come from the browser's database, not from the page. */
let lastStart: StartState | null = null
let stopAsked = false

type OnProgress = (progress: Progress) => void

async function start(item: CrateItem): Promise<StartState> {
  if (lastStart?.key !== startKey(item)) lastStart = await startOf(item, getSource)
  return lastStart
}

let lastReport: { key: string; report: SourceReport } | null = null

/** The report of a source, made once for each reading. */
function reportOf(from: StartState, item: CrateItem): SourceReport {
  if (lastReport?.key !== from.key) lastReport = { key: from.key, report: sourceReport(from.document, item.sources) }
  return lastReport.report
}

function optionsFor(rulebookId: string, item: CrateItem, onProgress: OnProgress): RunOptions {
  const rulebook = rulebookById(rulebookId)
  stopAsked = false
  return { rulebook, kind: kindOf(rulebook, item.kind), store: browserResults, onProgress, shouldStop: () => stopAsked }
}

const endpoint = {
  /** Runs an item's worklist from the first changed step, and checks the result. */
  async evaluate(rawItem: unknown, rulebookId: string, withScenes: boolean, onProgress: OnProgress): Promise<{ evaluation: Evaluation; scenes: Scenes | null }> {
    const item = itemSchema.parse(rawItem)
    const options = optionsFor(rulebookId, item, onProgress)
    const began = performance.now()
    const from = await start(item)
    const result = await runWorklist(from, item.worklist, options)
    const context = { document: result.document, rulebook: options.rulebook, kind: options.kind }
    const evaluation: Evaluation = {
      key: result.key,
      outcomes: result.outcomes,
      ...checkResult(result, options.rulebook, options.kind),
      source: reportOf(from, item),
      steps: steps.map((step) => ({ id: step.id, stage: step.stage, title: step.title, purpose: step.purpose, fields: step.fields(context) })),
      milliseconds: performance.now() - began,
    }
    if (!withScenes) return { evaluation, scenes: null }
    const scenes = { source: await buildScene(from.document), result: await buildScene(result.document) }
    return Comlink.transfer({ evaluation, scenes }, [...sceneTransfers(scenes.source), ...sceneTransfers(scenes.result)])
  },

  /** Proposes a whole worklist for an item. */
  async prepare(rawItem: unknown, rulebookId: string, onProgress: OnProgress): Promise<WorklistEntry[]> {
    const item = itemSchema.parse(rawItem)
    const options = optionsFor(rulebookId, item, onProgress)
    return prepareWorklist(await start(item), options)
  },

  /** One step filled in for the item, and its place in the worklist. */
  async propose(rawItem: unknown, rulebookId: string, step: string, overrides: Record<string, unknown>, onProgress: OnProgress): Promise<StepProposal> {
    const item = itemSchema.parse(rawItem)
    const options = optionsFor(rulebookId, item, onProgress)
    return proposeStep(await start(item), item.worklist, step, overrides, options)
  },

  /** Asks the present run to end at its next pause. */
  stop(): void {
    stopAsked = true
  },
}

export type BenchEndpoint = typeof endpoint
Comlink.expose(endpoint)
