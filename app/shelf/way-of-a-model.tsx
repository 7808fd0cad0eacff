/** The stages of the job in a few words, for whoever comes here first. */
const way: readonly [string, string][] = [
  ['Intake', 'Bring the files; leave out what is not the model.'],
  ['Fit', 'The game’s axes, unit and size, beside its figure.'],
  ['Mesh', 'Faces outward, under the budget, with levels.'],
  ['Surface', 'Maps, names and tags the loader knows.'],
  ['Solids', 'Something to bump into, and a doorway left open.'],
  ['Motion', 'What moves keeps moving.'],
  ['Check', 'What the game would say, and what mends it.'],
  ['Pack', 'One archive with all it needs and nothing else.'],
  ['Trial', 'A stand-in loader reads the pack and shows it.'],
]

/** The way from a file to a pack that loads. */
export function WayOfAModel() {
  return (
    <section aria-labelledby="the-way" className="mt-12">
      <h2 id="the-way" className="text-[17px]">
        The way a model goes
      </h2>
      <ol className="mt-3 grid grid-cols-5 gap-x-6 gap-y-4 text-[13px]">
        {way.map(([title, what], index) => (
          <li key={title} className="border-t border-edge-strong pt-2">
            <b className="font-semibold">
              <span className="num mr-1.5 text-ink-2">{index + 1}</span>
              {title}
            </b>
            <span className="block text-ink-2">{what}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}
