/** The validator of the Khronos Group, which comes without types; what the tests use of it. */
declare module 'gltf-validator' {
  export function validateBytes(
    bytes: Uint8Array,
    options?: { readonly maxIssues?: number },
  ): Promise<{
    readonly issues: {
      readonly numErrors: number
      readonly messages: readonly { readonly severity: number; readonly code: string; readonly message: string }[]
    }
  }>
}
