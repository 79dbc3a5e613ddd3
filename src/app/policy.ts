/** Sources of pictures, clips and models that the page itself has made from the artist's files. */
const MADE_HERE = 'blob: data:'

/**
 * The content security policy (https://www.w3.org/TR/CSP3/) of pages and workers. Resources come from this origin only, inline scripts need the nonce,
 * text is never evaluated as code, and no page may frame this one. Inline styles are allowed, since React and the toasts write them.
 * @param nonce of the inline scripts of one response; null for responses without inline scripts
 * @param developing allows `eval`, which React uses for error messages in development
 */
export function policyOf(nonce: string | null, developing: boolean): string {
  const scripts = ["'self'", nonce && `'nonce-${nonce}'`, developing && "'unsafe-eval'"].filter(Boolean)
  return [
    "default-src 'self'",
    `script-src ${scripts.join(' ')}`,
    "style-src 'self' 'unsafe-inline'",
    `connect-src 'self' ${MADE_HERE}`,
    `img-src 'self' ${MADE_HERE}`,
    "media-src 'self' blob:",
    // The video library merges colour and alpha in a worker that it starts from a blob.
    "worker-src 'self' blob:",
    "frame-src 'none'",
    "frame-ancestors 'none'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
  ].join('; ')
}
