import type { Rulebook } from '../../../core/game/schema'

type Ring = NonNullable<Rulebook['materials']['surfaces'][number]['knock']>

/** What rings where a rulebook says nothing of it. */
const other: Ring = { hertz: 160, seconds: 0.07, noise: 0.5 }

/** How a surface kind of a game rings. */
export const ringOf = (surface: string, { materials }: Rulebook): Ring =>
  materials.surfaces.find(({ name }) => name === surface)?.knock ?? other

let context: AudioContext | null = null

/** A short synthesised knock: a fading tone with some noise in it. */
export function knock({ hertz, seconds, noise }: Ring, loudness: number): void {
  context ??= new AudioContext()
  const length = Math.ceil(context.sampleRate * seconds)
  const buffer = context.createBuffer(1, length, context.sampleRate)
  const samples = buffer.getChannelData(0)
  for (let sample = 0; sample < length; sample++) {
    const time = sample / context.sampleRate
    const fading = Math.exp((-5 * time) / seconds)
    samples[sample] =
      fading *
      Math.min(0.4, 0.1 + loudness * 0.3) *
      ((1 - noise) * Math.sin(2 * Math.PI * hertz * time) + noise * (Math.random() * 2 - 1))
  }
  const source = context.createBufferSource()
  source.buffer = buffer
  source.connect(context.destination)
  source.start()
}
