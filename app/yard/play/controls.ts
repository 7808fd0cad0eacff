import type { YardAction } from '../../../core/trial/yard/actions'

/** Keys that walk, by where they lead: forward and to the right. */
export const walkKeys: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [1, 0],
  ArrowDown: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
}

/** Keys that act. */
export const actionKeys: Readonly<Record<string, YardAction>> = {
  Enter: 'take',
  ' ': 'ball',
  Backspace: 'hit',
  Home: 'use',
  Insert: 'drop-another',
  Shift: 'throw',
}

export const actionTitles: readonly { action: YardAction; title: string; key: string; loose?: true }[] = [
  { action: 'ball', title: 'Throw a ball', key: 'Space' },
  { action: 'hit', title: 'Hit it', key: 'Backspace' },
  { action: 'use', title: 'Use it', key: 'Home' },
  { action: 'take', title: 'Take, put down', key: 'Enter', loose: true },
  { action: 'throw', title: 'Throw it', key: 'Shift', loose: true },
  { action: 'drop-another', title: 'Drop another', key: 'Insert', loose: true },
]

const DEAD_ZONE = 0.2
/** Buttons of the standard gamepad layout (W3C Gamepad, section 6) by what they do. */
const padButtons: Readonly<Record<number, YardAction>> = {
  0: 'take',
  1: 'throw',
  2: 'hit',
  3: 'drop-another',
  5: 'use',
  7: 'ball',
}

export interface PadState {
  forward: number
  right: number
  turn: number
  pressed: Set<number>
}

/** What the first connected pad says; null when there is none. */
export function readPad(): PadState | null {
  const pad = navigator.getGamepads?.().find((each) => each !== null)
  if (!pad) return null
  const axis = (number: number): number => (Math.abs(pad.axes[number] ?? 0) < DEAD_ZONE ? 0 : pad.axes[number])
  return {
    forward: -axis(1),
    right: axis(0),
    turn: axis(2),
    pressed: new Set(pad.buttons.flatMap((button, number) => (button.pressed ? [number] : []))),
  }
}

/** Actions of buttons that are pressed now and were not before. */
export const padActions = (now: PadState, before: PadState | null): YardAction[] =>
  [...now.pressed].filter((button) => !before?.pressed.has(button)).flatMap((button) => padButtons[button] ?? [])

/** A walk along the ground for the way one looks: forward and right of that, in the plane across up. */
export function walkAlong(
  look: readonly number[],
  up: readonly number[],
  forward: number,
  right: number,
): [number, number, number] {
  const along = look.reduce((sum, value, axis) => sum + value * up[axis], 0)
  const flat = look.map((value, axis) => value - up[axis] * along)
  const length = Math.hypot(...flat) || 1
  const ahead = flat.map((value) => value / length)
  const beside = [
    ahead[1] * up[2] - ahead[2] * up[1],
    ahead[2] * up[0] - ahead[0] * up[2],
    ahead[0] * up[1] - ahead[1] * up[0],
  ]
  return [0, 1, 2].map((axis) => ahead[axis] * forward + beside[axis] * right) as [number, number, number]
}
