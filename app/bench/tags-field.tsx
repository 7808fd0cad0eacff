import { z } from 'zod'
import type { Field } from '../workers/field-messages'

const tagsSchema = z
  .array(
    z.object({
      material: z.string(),
      surface: z.string(),
      flags: z.array(z.string()),
      shading: z.string().default(''),
    }),
  )
  .catch([])

/** What each material is made of, and the flags it is drawn with. */
export function TagsField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { type: 'tags' }>
  value: unknown
  onChange: (value: unknown) => void
}) {
  const tags = tagsSchema.parse(value)
  const change = (index: number, part: Partial<(typeof tags)[number]>): void =>
    onChange(tags.map((tag, each) => (each === index ? { ...tag, ...part } : tag)))
  return (
    <div className="flex flex-col gap-2 text-[13px]">
      {tags.map((tag, index) => (
        <fieldset key={tag.material}>
          <div className="flex items-center gap-2">
            <legend className="float-left w-[112px] truncate font-semibold">{tag.material}</legend>
            <select
              className="field flex-1"
              aria-label={`Surface of ${tag.material}`}
              value={tag.surface}
              onChange={(event) => change(index, { surface: event.target.value })}
            >
              {field.surfaces.map((surface) => (
                <option key={surface}>{surface}</option>
              ))}
            </select>
          </div>
          <div className="mt-1 flex flex-wrap gap-1">
            <select
              className="field py-0 text-[11.5px]"
              aria-label={`Shading of ${tag.material}`}
              title="The shading model of the game"
              value={tag.shading}
              onChange={(event) => change(index, { shading: event.target.value })}
            >
              <option value="">shading that fits</option>
              {field.shadings.map((shading) => (
                <option key={shading.name} value={shading.name} title={shading.title}>
                  {shading.name}
                </option>
              ))}
            </select>
            {field.flags.map((flag) => {
              const on = tag.flags.includes(flag.name)
              return (
                <button
                  key={flag.name}
                  type="button"
                  aria-pressed={on}
                  aria-label={`${flag.name} for ${tag.material}`}
                  title={flag.meaning}
                  onClick={() =>
                    change(index, {
                      flags: on ? tag.flags.filter((each) => each !== flag.name) : [...tag.flags, flag.name],
                    })
                  }
                  className={`chip text-[11.5px] ${on ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
                >
                  {flag.name}
                </button>
              )
            })}
          </div>
        </fieldset>
      ))}
    </div>
  )
}
