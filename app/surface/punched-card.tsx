import { useId } from 'react'
import { z } from 'zod'
import type { Field } from '../workers/messages'

type CardsField = Extract<Field, { type: 'cards' }>

const punchSchema = z.object({ from: z.string(), channel: z.enum(['red', 'green', 'blue', 'alpha', 'brightness']), inverted: z.boolean(), scale: z.number(), value: z.number() })
const cardSchema = z.object({ material: z.string(), output: z.string(), red: punchSchema, green: punchSchema, blue: punchSchema, alpha: punchSchema })
export type CardValue = z.infer<typeof cardSchema>
type Punch = z.infer<typeof punchSchema>

export const cardsSchema = z.array(cardSchema).catch([])

const outputs = ['red', 'green', 'blue', 'alpha'] as const
const letters = { red: 'R', green: 'G', blue: 'B', alpha: 'A' } as const
const keys = { red: 'r', green: 'g', blue: 'b', alpha: 'a' } as const
const channels: readonly { value: Punch['channel']; label: string }[] = [{ value: 'red', label: 'red' }, { value: 'green', label: 'green' }, { value: 'blue', label: 'blue' }, { value: 'alpha', label: 'alpha' }, { value: 'brightness', label: 'grey' }]

interface PunchedCardProps {
  card: CardValue
  field: CardsField
  file: string
  format: string
  onChange: (card: CardValue) => void
}

/** What goes into each channel of a map: one hole a column. Below, how the punched channel is taken. */
export function PunchedCard({ card, field, file, format, onChange }: PunchedCardProps) {
  const name = useId()
  const layout = field.layouts.find((each) => each.role === card.output)
  const rows = [...field.rows, { value: 'constant', label: 'Constant', picture: '' }]
  const change = (output: (typeof outputs)[number], part: Partial<Punch>): void => onChange({ ...card, [output]: { ...card[output], ...part } })
  return (
    <section aria-label={`What goes into ${file}`} className="flex h-full w-[420px] shrink-0 flex-col overflow-y-auto border-l border-edge bg-paper px-3.5 py-2.5">
      <p className="caption flex justify-between pb-2">
        <span>What goes into {file}</span>
        <span>{format}</span>
      </p>
      <div className="card-corner border border-edge-strong bg-slip px-3 pt-3 pb-2">
        <table className="w-full border-collapse text-[13px]">
          <thead>
            <tr>
              <th scope="col"><span className="sr-only">From</span></th>
              {outputs.map((output) => (
                <th key={output} scope="col" className="w-[54px] pb-1.5"><span className="num inline-grid h-[21px] w-[23px] place-items-center rounded-[5px] border border-ink text-[12px]">{letters[output]}</span></th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.value} className="border-t border-dashed border-edge">
                <th scope="row" className="max-w-[170px] truncate py-0 text-left font-normal" title={row.picture}>
                  <b className="font-semibold">{row.label}</b> <span className="text-[11.5px] text-ink-2">{row.picture}</span>
                </th>
                {outputs.map((output) => (
                  <td key={output} className="text-center">
                    <label className="inline-block cursor-pointer px-2 py-[3px] align-middle">
                      <input type="radio" className="punch sr-only" name={`${name} ${output}`} checked={card[output].from === row.value} onChange={() => change(output, { from: row.value, channel: 'red', inverted: row.value === 'gloss' && layout?.channels[keys[output]] === 'roughness' })} aria-label={`${row.label} into ${letters[output]}`} />
                      <span className="hole block h-[17px] w-[12px] rounded-[3px] border border-edge-strong bg-paper" />
                    </label>
                  </td>
                ))}
              </tr>
            ))}
            <tr className="border-t border-dashed border-edge text-[12px] text-ink-2">
              <th scope="row" className="py-1 text-left font-normal">the game reads</th>
              {outputs.map((output) => <td key={output} className="text-center">{(layout?.channels[keys[output]] ?? '—').slice(0, 9)}</td>)}
            </tr>
          </tbody>
        </table>
      </div>
      <div className="mt-2.5 flex flex-col gap-1">
        {outputs.map((output) => (
          <ChannelLine key={output} letter={letters[output]} punch={card[output]} onChange={(part) => change(output, part)} />
        ))}
      </div>
    </section>
  )
}

function ChannelLine({ letter, punch, onChange }: { letter: string; punch: Punch; onChange: (part: Partial<Punch>) => void }) {
  return (
    <div role="group" aria-label={`Channel ${letter}`} className="flex items-center gap-2 text-[12.5px]">
      <span className="num w-4 font-semibold">{letter}</span>
      {punch.from === 'constant' ? (
        <label className="flex items-center gap-1.5">
          one value, 0 to 1
          <input key={punch.value} className="field num w-[64px] py-0.5" defaultValue={punch.value} inputMode="decimal" onBlur={(event) => { const value = Number(event.target.value); if (Number.isFinite(value)) onChange({ value: Math.min(1, Math.max(0, value)) }) }} />
        </label>
      ) : (
        <>
          <span className="w-[74px] truncate">{punch.from.replace('texture:', '')}</span>
          <select className="field py-0.5" aria-label={`Channel of the map for ${letter}`} value={punch.channel} onChange={(event) => onChange({ channel: channels.find((each) => each.value === event.target.value)?.value ?? 'red' })}>
            {channels.map((each) => <option key={each.value} value={each.value}>{each.label}</option>)}
          </select>
          <label className="flex items-center gap-1"><input type="checkbox" checked={punch.inverted} onChange={(event) => onChange({ inverted: event.target.checked })} /> turned round</label>
          <label className="flex items-center gap-1">×<input key={punch.scale} className="field num w-[46px] py-0.5" aria-label={`Factor for ${letter}`} defaultValue={punch.scale} inputMode="decimal" onBlur={(event) => { const scale = Number(event.target.value); if (Number.isFinite(scale)) onChange({ scale: Math.min(8, Math.max(0, scale)) }) }} /></label>
        </>
      )}
    </div>
  )
}
