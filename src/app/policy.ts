/** What is made in the page itself, and never leaves it: pictures, clips and models that the artist brings. */
const MADE_HERE = 'blob: data:'

/**
 * What a page or a worker may load, as a content security policy (https://www.w3.org/TR/CSP3/): nothing from elsewhere, no script that a file brings in,
 * no text that is run, and nobody frames it. Styles may stand in the page, since React and the toasts write them there.
 * @param nonce the word that scripts within this one answer carry; null where there are none
 * @param developing whether React may run text as code, with which it explains errors
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
    // The library that reads videos joins colours and alpha in a worker that it makes itself.
    "worker-src 'self' blob:",
    "frame-src 'none'",
    "frame-ancestors 'none'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
  ].join('; ')
}
