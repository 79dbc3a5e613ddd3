import { randomUUID } from 'node:crypto'
import { type NextRequest, NextResponse } from 'next/server'
import { policyOf } from '@/app/policy'

/** Pages are read; nothing is ever sent to them. */
const READING = ['GET', 'HEAD']

/** Gives each page its policy, with a word that the scripts of this answer alone carry: a script that a file brings in does not run. */
export function proxy(request: NextRequest): NextResponse {
  if (!READING.includes(request.method))
    return new NextResponse(null, { status: 405, headers: { allow: READING.join(', ') } })
  const policy = policyOf(randomUUID(), process.env.NODE_ENV === 'development')
  const headers = new Headers(request.headers)
  // From here the scripts of the page get the word.
  headers.set('content-security-policy', policy)
  const response = NextResponse.next({ request: { headers } })
  response.headers.set('content-security-policy', policy)
  return response
}

/** Pages. All else holds no scripts of its own, and has a fixed policy (`next.config.ts`). */
export const config = { matcher: '/((?!_next/|api/|sw\\.js|icon\\.svg|manifest\\.webmanifest).*)' }
