import type { Express } from 'express'
import { collectDefaultMetrics, Histogram, Registry } from 'prom-client'

/**
 * What the server does, in figures for whoever watches over it (Prometheus text format): of the process, and how long answers
 * take by method and status. Nothing of people or marks.
 */
export function countWork(app: Express): void {
  const registry = new Registry()
  collectDefaultMetrics({ register: registry })
  const took = new Histogram({
    name: 'level_table_answer_seconds',
    help: 'How long answers of the API take',
    labelNames: ['method', 'status'],
    buckets: [0.005, 0.02, 0.1, 0.5, 2, 10],
    registers: [registry],
  })
  app.use('/api', (req, res, next) => {
    const end = took.startTimer({ method: req.method })
    res.on('finish', () => end({ status: String(res.statusCode) }))
    next()
  })
  app.get('/metrics', async (_req, res) => {
    res.type(registry.contentType).send(await registry.metrics())
  })
}
