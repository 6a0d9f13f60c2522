import express from 'express'
import fc from 'fast-check'
import request from 'supertest'
import { jsonPieces, sendInPieces } from './json-in-pieces'

test('the pieces are what JSON says in one go', () =>
  fc.assert(
    fc.property(
      fc.object({ withDate: true, values: [fc.constant(undefined), fc.string(), fc.double(), fc.boolean(), fc.constant(null)] }),
      (value) => {
        expect([...jsonPieces(value)].join('')).toBe(JSON.stringify(value))
      },
    ),
    { numRuns: 300 },
  ))

test('an answer of many pieces arrives whole', async () => {
  const value = {
    head: { role: 'lead' },
    columns: Object.fromEntries(Array.from({ length: 9 }, (_, k) => [`c${k}`, Array.from({ length: 40_000 }, (_, i) => i * k)])),
  }
  const app = express().get('/', (_req, res) => sendInPieces(res, value))
  const answer = await request(app).get('/').expect(200)
  expect(answer.headers['content-type']).toMatch('application/json')
  expect(answer.body).toEqual(value)
})
