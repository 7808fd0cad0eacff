/** How each surface kind rings: pitch in hertz, how long in seconds, and how much of it is noise. */
const voices: Readonly<Record<string, { pitch: number; seconds: number; noise: number }>> = {
  timber: { pitch: 190, seconds: 0.09, noise: 0.4 },
  iron: { pitch: 720, seconds: 0.5, noise: 0.08 },
  stone: { pitch: 130, seconds: 0.05, noise: 0.8 },
  glass: { pitch: 1500, seconds: 0.25, noise: 0.1 },
  rope: { pitch: 90, seconds: 0.06, noise: 0.7 },
  cloth: { pitch: 70, seconds: 0.05, noise: 0.9 },
  mud: { pitch: 60, seconds: 0.08, noise: 0.95 },
  leaf: { pitch: 300, seconds: 0.05, noise: 0.95 },
}
const other = { pitch: 160, seconds: 0.07, noise: 0.5 }

let context: AudioContext | null = null

/** A short synthesised knock: a fading tone with some noise in it. */
export function knock(surface: string, loudness: number): void {
  context ??= new AudioContext()
  const { pitch, seconds, noise } = voices[surface] ?? other
  const length = Math.ceil(context.sampleRate * seconds)
  const buffer = context.createBuffer(1, length, context.sampleRate)
  const samples = buffer.getChannelData(0)
  for (let sample = 0; sample < length; sample++) {
    const time = sample / context.sampleRate
    const fading = Math.exp((-5 * time) / seconds)
    samples[sample] =
      fading *
      Math.min(0.4, 0.1 + loudness * 0.3) *
      ((1 - noise) * Math.sin(2 * Math.PI * pitch * time) + noise * (Math.random() * 2 - 1))
  }
  const source = context.createBufferSource()
  source.buffer = buffer
  source.connect(context.destination)
  source.start()
}
