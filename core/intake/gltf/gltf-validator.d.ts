declare module 'gltf-validator' {
  export interface ValidationMessage {
    code: string
    message: string
    severity: 0 | 1 | 2 | 3
    pointer?: string
  }
  export interface ValidationReport {
    issues: { numErrors: number; numWarnings: number; messages: ValidationMessage[] }
    info: Record<string, unknown>
  }
  export interface ValidationOptions {
    uri?: string
    format?: 'glb' | 'gltf'
    maxIssues?: number
    writeTimestamp?: boolean
    ignoredIssues?: string[]
    externalResourceFunction?: (uri: string) => Promise<Uint8Array>
  }
  export function validateBytes(bytes: Uint8Array, options?: ValidationOptions): Promise<ValidationReport>
}
