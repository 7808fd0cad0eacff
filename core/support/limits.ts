/**
 * How much of a file is read. Every reader keeps to these, and says them where a file goes beyond: the numbers stand
 * well above what people make, and well below what stops a browser.
 */
export const limits = {
  /** Bytes of one file. */
  fileBytes: 500 * 1024 * 1024,
  /** Bytes that an archive may unpack to, all its files together. */
  unpackedBytes: 600 * 1024 * 1024,
  /** Files in an archive. */
  archiveFiles: 20_000,
  /** Nodes of a scene. */
  nodes: 100_000,
  /** Nodes one below the other. */
  nodeDepth: 1000,
  /** Numbers that a file claims without holding them: an accessor of noughts. */
  claimedNumbers: 10_000_000,
  /** How far a node may move or scale what is in it, either way. */
  nodeFactor: 1e15,
} as const
