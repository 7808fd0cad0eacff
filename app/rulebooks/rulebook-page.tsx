import { axesInWords } from '../../core/game/space'
import type { ReactNode } from 'react'
import type { Rulebook } from '../../core/game/schema'
import { formatCount, formatMegabytes } from '../ui/format'

/** One game's demands, for reading. */
export function RulebookPage({ rulebook }: { rulebook: Rulebook }) {
  const { space, maps, materials, names, files } = rulebook
  return (
    <main className="mx-auto w-full max-w-5xl px-8 py-8">
      <h1 className="text-[28px]">
        {rulebook.title} <span className="num text-[18px] font-normal text-ink-2">rulebook {rulebook.version}</span>
      </h1>
      <p className="mt-1 text-ink-2">{rulebook.summary}</p>
      <dl className="mt-6 grid grid-cols-2 gap-x-10 gap-y-3">
        <Fact term="Space">
          {axesInWords(space)}; 1 {space.unit.name} = {space.unit.metres} m; nothing under {space.smallestDrawn} is
          drawn
        </Fact>
        <Fact term="Figure and doorway">
          {space.figure.height} tall, {space.figure.width} wide; doorway {space.doorway.width} × {space.doorway.height};
          grid cell {space.gridCell} {space.unit.plural}
        </Fact>
        <Fact term="Maps">
          {files.texture.writer.toUpperCase()}, {maps.powersOfTwo ? 'powers of two ' : ''}
          {maps.smallestPixels}–{maps.largestPixels} pixels, aspect up to {maps.widestAspect} : 1, {maps.mipmaps}{' '}
          mipmaps
        </Fact>
        <Fact term="Names">
          {names.described}, up to {names.longest}
        </Fact>
        <Fact term="Surfaces">{materials.surfaces.map((surface) => surface.name).join(', ')}</Fact>
        <Fact term="Flags">{materials.flags.map((flag) => flag.name).join(', ')}</Fact>
      </dl>
      <h2 className="mt-8 text-[19px]">Kinds</h2>
      <div className="mt-2 overflow-x-auto">
        <table className="w-full text-left">
          <thead className="caption">
            <tr className="border-b border-edge-strong">
              {['Kind', 'What it is', 'Triangles', 'With solids', 'Solids', 'Texture memory'].map((head) => (
                <th key={head} scope="col" className="py-1.5 pr-4 font-semibold">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rulebook.kinds.map((kind) => (
              <tr key={kind.id} className="border-b border-dashed border-edge">
                <th scope="row" className="py-1.5 pr-4 font-semibold">
                  {kind.title}
                </th>
                <td className="pr-4">{kind.summary}</td>
                <td className="num pr-4">{kind.mesh ? formatCount(kind.mesh.triangles) : '–'}</td>
                <td className="num pr-4">{kind.mesh?.withSolids ? formatCount(kind.mesh.withSolids) : '–'}</td>
                <td className="pr-4">{kind.solids?.shapes.join(', ') ?? '–'}</td>
                <td className="num">{formatMegabytes(kind.textureMemoryBytes)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </main>
  )
}

function Fact({ term, children }: { term: string; children: ReactNode }) {
  return (
    <div>
      <dt className="caption">{term}</dt>
      <dd>{children}</dd>
    </div>
  )
}
