import { z } from 'zod'
import { steps as all, stepById } from '../../core/steps/registry.ts'
import { parseCall, print, type Command } from '../command.ts'

export const steps: Command = {
  async run(words) {
    const call = parseCall(words, {})
    const [id] = call.positionals
    const told = (id === undefined ? all : [stepById(id)]).map((step) => ({
      step: step.id,
      stage: step.stage,
      title: step.title,
      purpose: step.purpose,
      parameters: z.toJSONSchema(step.parameters, { io: 'input' }),
    }))
    print(
      call,
      { steps: told },
      told.flatMap((step) => [
        `${step.step} (${step.stage}): ${step.purpose}`,
        ...(id === undefined ? [] : [JSON.stringify(step.parameters, null, 2)]),
      ]),
    )
    return 0
  },
}
