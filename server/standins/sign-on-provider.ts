import { createHash, randomBytes } from 'node:crypto'
import { Router, urlencoded, type Response } from 'express'
import { exportJWK, generateKeyPair, SignJWT } from 'jose'
import type { ProviderMode } from '#contract'

/** Where it is on this server. */
export const PROVIDER_PATH = '/api/stand-in/sign-on'
/** Where people say who they are; a page that ships with the others. */
const CHOOSING_PAGE = '/stand-in/sign-on'
const MINUTES = 5
const ALGORITHM = 'ES256'
const MOST_CODES = 1000

interface Asked {
  nonce: string
  challenge: string
  clientId: string
  backTo: string
  claims: { sub: string; preferred_username: string; name: string; email?: string; email_verified?: boolean }
  ends: number
}

const one = (value: unknown): string => (typeof value === 'string' ? value.slice(0, 1000) : '')

/**
 * A stand-in for a department's OpenID Connect provider: discovery, code flow with a proof key, userinfo. It believes whoever says who
 * they are, and is therefore for the demo and for this machine alone. Anybody may call it; it knows nobody and keeps nothing.
 */
export function signOnProvider(issuer: () => string, mode: () => ProviderMode): Router {
  const router = Router()
  const codes = new Map<string, Asked>()
  const tokens = new Map<string, Asked>()
  // Made when first asked for; the second pair is nobody's, for answers that must not be taken.
  const made = new Map<string, ReturnType<typeof generateKeyPair>>()
  const pair = (whose: 'own' | 'another') => {
    if (!made.has(whose)) made.set(whose, generateKeyPair(ALGORITHM))
    return made.get(whose)!
  }
  const keep = (where: Map<string, Asked>, asked: Asked): string => {
    const key = randomBytes(24).toString('base64url')
    where.set(key, asked)
    if (where.size > MOST_CODES) where.delete(where.keys().next().value!)
    return key
  }
  const take = (where: Map<string, Asked>, key: string): Asked | null => {
    const asked = where.get(key)
    where.delete(key)
    return asked && asked.ends > Date.now() ? asked : null
  }
  const refuse = (res: Response, error: string) => void res.status(400).json({ error })

  router.use((req, res, next) => {
    // Whoever is at the page of it got there before it failed.
    if (mode() === 'fails' && req.path !== '/as') return void res.status(503).json({ error: 'temporarily_unavailable' })
    // Who asks gives up first.
    if (mode() === 'is slow' && req.path !== '/as') return
    next()
  })
  router.get('/.well-known/openid-configuration', (_req, res) => {
    res.json({
      issuer: issuer(),
      authorization_endpoint: new URL(CHOOSING_PAGE, issuer()).href,
      token_endpoint: `${issuer()}/token`,
      userinfo_endpoint: `${issuer()}/userinfo`,
      jwks_uri: `${issuer()}/keys`,
      response_types_supported: ['code'],
      subject_types_supported: ['public'],
      id_token_signing_alg_values_supported: [ALGORITHM],
      token_endpoint_auth_methods_supported: ['none', 'client_secret_basic'],
      code_challenge_methods_supported: ['S256'],
      claims_supported: ['sub', 'preferred_username', 'name', 'email'],
    })
  })
  router.get('/keys', async (_req, res) => {
    res.json({ keys: [{ ...(await exportJWK((await pair('own')).publicKey)), kid: 'stand-in', alg: ALGORITHM, use: 'sig' }] })
  })
  // From the page where people choose: back to where they came from.
  router.get('/as', (req, res) => {
    const signIn = one(req.query.who)
    const backTo = URL.canParse(one(req.query.redirect_uri)) ? new URL(one(req.query.redirect_uri)) : null
    // It sends nobody anywhere but to this server.
    if (!backTo || backTo.host !== req.get('host')) return refuse(res, 'invalid_request')
    backTo.searchParams.set('state', one(req.query.state))
    if (signIn === '') backTo.searchParams.set('error', 'access_denied')
    else {
      const email = one(req.query.email)
      const claims = {
        sub: `account-${createHash('sha256')
          .update(one(req.query.account) || signIn)
          .digest('hex')
          .slice(0, 16)}`,
        preferred_username: signIn,
        name: one(req.query.name) || signIn,
      }
      const asked = {
        nonce: one(req.query.nonce),
        challenge: one(req.query.code_challenge),
        clientId: one(req.query.client_id),
        backTo: one(req.query.redirect_uri),
        claims: email ? { ...claims, email, email_verified: true } : claims,
        ends: Date.now() + MINUTES * 60_000,
      }
      backTo.searchParams.set('code', keep(codes, asked))
    }
    res.redirect(backTo.href)
  })
  router.post('/token', urlencoded({ extended: false, limit: '8kb' }), async (req, res) => {
    const body = (req.body ?? {}) as Record<string, unknown>
    const asked = take(codes, one(body.code))
    const proven = createHash('sha256').update(one(body.code_verifier)).digest('base64url')
    if (!asked || proven !== asked.challenge || one(body.redirect_uri) !== asked.backTo) return refuse(res, 'invalid_grant')
    const { privateKey } = await pair(mode() === 'signs with another key' ? 'another' : 'own')
    const idToken = await new SignJWT({ nonce: mode() === 'answers another question' ? 'another' : asked.nonce })
      .setProtectedHeader({ alg: ALGORITHM, kid: 'stand-in' })
      .setIssuer(issuer())
      .setAudience(asked.clientId)
      .setSubject(asked.claims.sub)
      .setIssuedAt()
      .setExpirationTime(`${MINUTES} minutes`)
      .sign(privateKey)
    res.json({ access_token: keep(tokens, asked), token_type: 'Bearer', expires_in: MINUTES * 60, id_token: idToken })
  })
  router.get('/userinfo', (req, res) => {
    const asked = take(tokens, (req.get('authorization') ?? '').replace(/^Bearer /, ''))
    if (!asked) return refuse(res, 'invalid_token')
    const { sub, ...claims } = asked.claims
    res.json(mode() === 'leaves the claim out' ? { sub } : { sub, ...claims })
  })
  return router
}
