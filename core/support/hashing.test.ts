import { createHash } from 'node:crypto'
import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'
import { describe, expect, it } from 'vitest'
import { canonicalJson, hashValue, provideHash, sha256Hex } from './hashing.ts'

const plain = (bytes: Uint8Array): string => bytesToHex(sha256(bytes))
const node = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

describe('hashes', () => {
  it('are the same by the platform and by the library, also of a part of a buffer', () => {
    const whole = Uint8Array.from({ length: 5000 }, (_, at) => (at * 31) & 255)
    try {
      for (const bytes of [new Uint8Array(), whole, whole.subarray(7, 4001)]) {
        provideHash(plain)
        const known = sha256Hex(bytes)
        provideHash(node)
        expect(sha256Hex(bytes)).toBe(known)
      }
    } finally {
      provideHash(node)
    }
    expect(sha256Hex(new TextEncoder().encode('abc'))).toBe(
      'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
    )
  })

  it('of values do not hang on the order of keys, but on that of lists', () => {
    expect(canonicalJson({ b: 1, a: { d: 2, c: [3, 1] } })).toBe('{"a":{"c":[3,1],"d":2},"b":1}')
    expect(hashValue({ a: 1, b: 2 })).toBe(hashValue({ b: 2, a: 1 }))
    expect(hashValue([1, 2])).not.toBe(hashValue([2, 1]))
  })
})
