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
  /** Materials, pictures, clips, skins: of each so many. */
  looks: 10_000,
  /** Records of a file that is a tree: elements, chunks, nodes of whatever meaning. */
  records: 4_000_000,
  /** Lines of a record that is text: an entry, a look, a manifest. */
  recordLines: 200_000,
  /** Records one below the other. */
  recordDepth: 512,
  /** Bytes that the lists of a file may unpack to, all together. */
  listBytes: 512 * 1024 * 1024,
  /** Numbers in one list that is written as text. */
  listNumbers: 100_000_000,
  /** Triangles of a mesh, and corners of its faces. */
  triangles: 8_000_000,
  corners: 24_000_000,
  /** Corners of one face. */
  polygonCorners: 4096,
  /** Copies that a file asks to be drawn of one mesh. */
  instances: 20_000,
  /** Pixels of a picture: 8192 × 8192. */
  pixels: 64 * 1024 * 1024,
  /** Numbers that a file claims without holding them: an accessor of noughts. */
  claimedNumbers: 10_000_000,
  /** How far a node may move or scale what is in it, either way. */
  nodeFactor: 1e15,
} as const

/**
 * 24000000 → “24 million”.
 *
 * @example inMillions(20_000_000) // '20 million'
 */
export const inMillions = (count: number): string => `${count / 1_000_000} million`
