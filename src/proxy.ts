import { randomUUID } from 'node:crypto'
import { type NextRequest, NextResponse } from 'next/server'
import { policyOf } from '@/app/policy'

/** Methods that pages answer. */
const READING = ['GET', 'HEAD']

/** Gives each page a policy with a nonce of its own, so that an injected inline script does not run. */
export function proxy(request: NextRequest): NextResponse {
  if (!READING.includes(request.method))
    return new NextResponse(null, { status: 405, headers: { allow: READING.join(', ') } })
  const policy = policyOf(randomUUID(), process.env.NODE_ENV === 'development')
  const headers = new Headers(request.headers)
  // Next.js reads the nonce from this header when it renders the scripts of the page.
  headers.set('content-security-policy', policy)
  const response = NextResponse.next({ request: { headers } })
  response.headers.set('content-security-policy', policy)
  return response
}

/** Pages only. Every other response has no inline scripts, and gets a fixed policy in `next.config.ts`. */
export const config = { matcher: '/((?!_next/|api/|sw\\.js|icon\\.svg|manifest\\.webmanifest).*)' }
