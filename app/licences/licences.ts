import { z } from 'zod'
import { PlainError } from '../../core/support/plain-error'

const licencesSchema = z.array(
  z.object({ name: z.string(), version: z.string(), licence: z.string(), text: z.string() }),
)
export type Licence = z.infer<typeof licencesSchema>[number]

/**
 * The licences of everything that the application is made of; they are written when it is built.
 * @throws PlainError when they are not there, as while it is being developed
 */
export async function readLicences(): Promise<Licence[]> {
  const response = await fetch('/licences.json')
  const json = response.headers.get('Content-Type')?.includes('json') === true
  if (!response.ok || !json)
    throw new PlainError('they are not there', 'the licences', 'They are written by npm run build.')
  return licencesSchema.parse(await response.json())
}
