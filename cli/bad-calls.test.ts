import { mkdtempSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { call } from './test-support.ts'

// Whoever calls it wrongly is told in a sentence what is wrong and where; scripts see it by a code, and nothing is
// written.

const folder = mkdtempSync(join(tmpdir(), 'bad-calls-'))
const at = (name: string): string => join(folder, name)
writeFileSync(at('notes.txt'), 'nothing of the kind')
writeFileSync(at('broken.glb'), 'glTF and then nothing')
writeFileSync(at('broken.zip'), 'PK and then nothing')
writeFileSync(at('broken.json'), '{ "id": ')
writeFileSync(at('empty.obj'), '')
mkdirSync(at('hollow'))
const game = ['--rulebook', 'tarn-and-tiller']
const out = ['--out', at('out.zip')]

const calls: [what: string, words: string[], told: RegExp][] = [
  ['a word that is no command', ['polish'], /polish/],
  ['an option that is none', ['survey', '--shiny'], /--shiny/],
  ['an option that another command has', ['survey', 'a.glb', '--codec', 'bc7'], /--codec/],
  ['no file to survey', ['survey'], /no file was named/],
  ['a file that is not there', ['survey', at('nowhere.glb')], /nowhere\.glb/],
  ['a file that no reader knows', ['survey', at('notes.txt')], /notes\.txt/],
  ['a mesh that ends early', ['survey', at('broken.glb')], /broken\.glb/],
  ['a mesh of nothing', ['prepare', at('empty.obj'), ...game, ...out], /empty\.obj/],
  ['no file to prepare', ['prepare', ...game, ...out], /no file was named/],
  ['a game that is not said', ['prepare', 'demo/sources/mooring_bell/mooring_bell.glb', ...out], /rulebook/],
  [
    'a game that nobody knows',
    ['prepare', at('broken.glb'), '--rulebook', 'lantern-row', ...out],
    /lantern-row.*tarn-and-tiller/s,
  ],
  ['a rulebook that is no JSON', ['rulebook', at('broken.json')], /broken\.json/],
  [
    'a kind that the game does not have',
    ['prepare', at('broken.glb'), ...game, '--kind', 'airship', ...out],
    /airship/,
  ],
  ['a unit that is none', ['prepare', at('broken.glb'), ...game, '--unit', 'furlong', ...out], /furlong/],
  ['an axis that is none', ['prepare', at('broken.glb'), ...game, '--up', 'w', ...out], /up/],
  ['nowhere to write to', ['prepare', 'demo/sources/mooring_bell/mooring_bell.glb', ...game], /--out|--report/],
  ['a folder without a mesh', ['prepare', at('hollow'), ...game, '--report'], /hollow/],
  ['a crate that is none', ['check', at('broken.zip')], /broken\.zip/],
  ['a crate that is not there', ['check', at('nowhere.zip')], /nowhere\.zip/],
  ['a pack without a name', ['pack', at('broken.zip')], /--out|broken\.zip/],
  ['a pack of what is no crate', ['pack', at('notes.txt'), ...out], /notes\.txt/],
  ['a trial without a game', ['trial', at('broken.zip')], /rulebook/],
  ['a trial of what is no pack', ['trial', at('notes.txt'), ...game], /archive cannot be opened/],
  ['one pack to lay over none', ['overlay'], /overlay/],
  ['paths of what is no crate', ['paths', at('notes.txt')], /notes\.txt/],
  ['solids of what is no crate', ['touch-test', at('broken.zip')], /broken\.zip/],
  ['a shift between what is not there', ['shift', at('nowhere.glb'), at('broken.glb')], /nowhere\.glb/],
  ['a format that is not written', ['convert', at('broken.glb'), '--to', 'docx', '--out', at('a.docx')], /docx/],
  ['a picture that is none', ['convert', at('notes.txt'), '--to', 'png', '--out', at('a.png')], /notes\.txt/],
  ['a step that nobody knows', ['steps', 'polish'], /polish/],
  ['files to learn from that are none', ['learn', at('hollow')], /neither a mesh nor a picture/],
  ['things for a stock that are not there', ['stock', 'tarn-and-tiller', at('nowhere.glb'), ...out], /nowhere\.glb/],
  ['a folder to watch that is none', ['watch', at('nowhere'), ...game, ...out], /nowhere/],
  ['an item that the pack does not have', ['take', at('broken.zip'), '--item', 'bell', ...out], /broken\.zip/],
  ['slots of what is no crate', ['slots', at('notes.txt')], /notes\.txt/],
  ['a comparison with nothing', ['compare', at('broken.glb')], /two versions have to be named/],
  ['a crate begun without a game', ['init', at('fresh')], /rulebook/],
]

describe('a call with', () => {
  it.each(calls)('%s is told in a sentence', async (_what, words, told) => {
    const before = readdirSync(folder).sort()
    const { code, complained, text } = await call(...words)
    expect(code).toBeGreaterThan(0)
    const said = `${complained}\n${text}`
    expect(said).toMatch(told)
    // A sentence, and no trace of where in the program it came to be.
    expect(said).not.toMatch(/\n\s+at |undefined|NaN|\[object|TypeError/)
    expect(complained.trim() === '' || /[.!?]"?$/.test(complained.trim().split('\n').at(-1) ?? '')).toBe(true)
    expect(readdirSync(folder).sort()).toEqual(before)
  })
})
