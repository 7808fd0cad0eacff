/**
 * Which of two versions is the later: negative, 0 or positive. “1.10” comes after “1.9”.
 * @example compareVersions('1.10', '1.9') > 0 // true
 */
export function compareVersions(first: string, second: string): number {
  const [a, b] = [first, second].map((version) => version.split('.').map(Number))
  return a[0] - b[0] || (a[1] ?? 0) - (b[1] ?? 0)
}
