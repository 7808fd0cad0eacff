import { useId, useState } from 'react'
import { z } from 'zod'
import { NumberInput } from '../ui/fields/number-input'
import type { Field } from '../workers/field-messages'

export type CardField = Extract<Field, { type: 'cards' }>

const punchSchema = z.object({
  from: z.string(),
  channel: z.enum(['red', 'green', 'blue', 'alpha', 'brightness']),
  inverted: z.boolean(),
  scale: z.number(),
  value: z.number(),
})
const cardSchema = z.object({
  material: z.string(),
  output: z.string(),
  red: punchSchema,
  green: punchSchema,
  blue: punchSchema,
  alpha: punchSchema,
})
export type CardValue = z.infer<typeof cardSchema>
type Punch = z.infer<typeof punchSchema>

export const cardsSchema = z.array(cardSchema).catch([])

const outputs = ['red', 'green', 'blue', 'alpha'] as const
const letters = { red: 'R', green: 'G', blue: 'B', alpha: 'A' } as const
const keys = { red: 'r', green: 'g', blue: 'b', alpha: 'a' } as const
const channels: readonly { value: Punch['channel']; label: string }[] = [
  { value: 'red', label: 'red' },
  { value: 'green', label: 'green' },
  { value: 'blue', label: 'blue' },
  { value: 'alpha', label: 'alpha' },
  { value: 'brightness', label: 'grey' },
]

/** Before a picture's name where a punch names one. */
const PICTURE = 'picture:'
const stemOf = (name: string): string => name.replace(/\.[^.]*$/, '')

interface PunchedCardProps {
  card: CardValue
  field: CardField
  file: string
  format: string
  onChange: (card: CardValue) => void
}

/** What goes into each channel of a map: one hole a column. Below, how the punched channel is taken. */
export function PunchedCard({ card, field, file, format, onChange }: PunchedCardProps) {
  const name = useId()
  const layout = field.layouts.find((each) => each.role === card.output)
  // Pictures beyond the material's own maps get a row when they are asked for or punched.
  const [added, setAdded] = useState<string[]>([])
  const punched = outputs
    .map((output) => card[output].from)
    .filter((from) => from.startsWith(PICTURE))
    .map((from) => from.slice(PICTURE.length))
  const others = [...new Set([...added, ...punched])]
  const rows = [
    ...field.rows,
    ...others.map((name) => ({ value: PICTURE + name, label: stemOf(name), picture: 'picture' })),
    { value: 'constant', label: 'Constant', picture: '' },
  ]
  const change = (output: (typeof outputs)[number], part: Partial<Punch>): void =>
    onChange({ ...card, [output]: { ...card[output], ...part } })
  return (
    <section
      aria-label={`What goes into ${file}`}
      className="flex h-full w-[420px] shrink-0 flex-col overflow-y-auto border-l border-edge bg-paper px-3.5 py-2"
    >
      <p className="caption flex justify-between pb-1">
        <span>What goes into {file}</span>
        <span>{format}</span>
      </p>
      <div className="card-corner border border-edge-strong bg-slip px-3 pt-2 pb-1">
        <table className="w-full border-collapse text-[13px]">
          <thead>
            <tr>
              <th scope="col">
                <span className="sr-only">From</span>
              </th>
              {outputs.map((output) => (
                <th key={output} scope="col" className="w-[58px] pb-1">
                  <span className="num inline-grid h-[21px] w-[23px] place-items-center rounded-[5px] border border-ink text-[12px]">
                    {letters[output]}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.value} className="border-t border-dashed border-edge">
                <th scope="row" className="max-w-[170px] truncate py-0 text-left font-normal" title={row.picture}>
                  <b className="font-semibold">{row.label}</b>{' '}
                  <span className="text-[11.5px] text-ink-2">{row.picture}</span>
                </th>
                {outputs.map((output) => (
                  <td key={output} className="text-center">
                    <label className="inline-block cursor-pointer px-2 py-[1.5px] align-middle">
                      <input
                        type="radio"
                        className="punch sr-only"
                        name={`${name} ${output}`}
                        checked={card[output].from === row.value}
                        onChange={() =>
                          change(output, {
                            from: row.value,
                            channel: 'red',
                            inverted: row.value === 'gloss' && layout?.channels[keys[output]] === 'roughness',
                          })
                        }
                        aria-label={`${row.label} into ${letters[output]}`}
                      />
                      <span className="hole block h-[16px] w-[12px] rounded-[3px] border border-edge-strong bg-paper" />
                    </label>
                  </td>
                ))}
              </tr>
            ))}
            <tr className="border-t border-dashed border-edge text-[11.5px] text-ink-2">
              <th scope="row" className="py-0.5 text-left font-normal">
                the game reads
              </th>
              {outputs.map((output) => (
                <td key={output} className="text-center" title={layout?.channels[keys[output]] ?? undefined}>
                  {shortMeanings[layout?.channels[keys[output]] ?? ''] ?? layout?.channels[keys[output]] ?? '—'}
                </td>
              ))}
            </tr>
            <tr className="border-t border-dashed border-edge">
              <th scope="row" className="py-0.5 text-left font-normal text-ink-2">
                taken from, or value
              </th>
              {outputs.map((output) => (
                <td key={output} className="px-0.5 text-center">
                  <ChannelOrValue
                    letter={letters[output]}
                    punch={card[output]}
                    onChange={(part) => change(output, part)}
                  />
                </td>
              ))}
            </tr>
            <tr>
              <th scope="row" className="py-0.5 text-left font-normal text-ink-2">
                turned round
              </th>
              {outputs.map((output) => (
                <td key={output} className="text-center">
                  {card[output].from !== 'constant' && (
                    <input
                      type="checkbox"
                      aria-label={`${letters[output]} turned round`}
                      checked={card[output].inverted}
                      onChange={(event) => change(output, { inverted: event.target.checked })}
                    />
                  )}
                </td>
              ))}
            </tr>
            <tr>
              <th scope="row" className="py-0.5 text-left font-normal text-ink-2">
                times, 0 to 8
              </th>
              {outputs.map((output) => (
                <td key={output} className="px-0.5 text-center">
                  {card[output].from !== 'constant' && (
                    <NumberInput
                      className="w-full px-1 py-0 text-[11.5px]"
                      least={0}
                      label={`Factor for ${letters[output]}`}
                      value={card[output].scale}
                      most={8}
                      onChange={(scale) => change(output, { scale })}
                    />
                  )}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      {field.pictures.length > others.length && (
        <select
          aria-label="A row for another picture"
          className="field mt-1.5 self-start py-0 text-[12px]"
          value=""
          onChange={(event) => setAdded([...added, event.target.value])}
        >
          <option value="">A row for another picture…</option>
          {field.pictures
            .filter((name) => !others.includes(name))
            .map((name) => (
              <option key={name}>{name}</option>
            ))}
        </select>
      )}
    </section>
  )
}

const shortMeanings: Record<string, string> = {
  occlusion: 'occl.',
  roughness: 'rough',
  metalness: 'metal',
  'normal-x': 'x',
  'normal-y': 'y',
}

/** Which channel of the punched map is taken; for a constant its value. */
function ChannelOrValue({
  letter,
  punch,
  onChange,
}: {
  letter: string
  punch: Punch
  onChange: (part: Partial<Punch>) => void
}) {
  if (punch.from === 'constant')
    return (
      <NumberInput
        className="w-full px-1 py-0 text-[11.5px]"
        least={0}
        label={`Value of ${letter}, 0 to 1`}
        value={punch.value}
        most={1}
        onChange={(value) => onChange({ value })}
      />
    )
  return (
    <select
      className="field w-full px-0.5 py-0 text-[11.5px]"
      aria-label={`Channel of the map for ${letter}`}
      value={punch.channel}
      onChange={(event) =>
        onChange({ channel: channels.find((each) => each.value === event.target.value)?.value ?? 'red' })
      }
    >
      {channels.map((each) => (
        <option key={each.value} value={each.value}>
          {each.label}
        </option>
      ))}
    </select>
  )
}
