import { z } from 'zod'
import { Problem, routes, type Route } from '#contract'

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any', target: 'draft-2020-12' })
  return rest
}

/** OpenAPI 3.1 description of every route, made from the contract. */
export function openapi(): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const [name, r] of Object.entries<Route>(routes)) {
    const path = r.path.replace(/:(\w+)/g, '{$1}')
    const access = typeof r.access === 'string' ? r.access : r.access.join(', ')
    const hasBody = r.body.def.type !== 'undefined'
    const answer = r.produces
      ? { description: 'OK', content: { [r.produces]: { schema: { type: 'string' } } } }
      : r.response.def.type === 'undefined'
        ? { description: 'Done' }
        : { description: 'OK', content: { 'application/json': { schema: schemaOf(r.response, 'output') } } }
    ;(paths[path] ??= {})[r.method.toLowerCase()] = {
      operationId: name,
      summary: r.summary,
      description: `For: ${access}.`,
      ...(r.access === 'anyone' ? { security: [] } : {}),
      parameters: Object.entries(r.params.shape).map(([param, schema]) => ({
        name: param,
        in: 'path',
        required: true,
        schema: schemaOf(schema as z.ZodType, 'input'),
      })),
      ...(hasBody ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(r.body, 'input') } } } } : {}),
      responses: {
        [r.response.def.type === 'undefined' && !r.produces ? '204' : '200']: answer,
        default: { description: 'Problem', content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } },
      },
    }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Level Table', version: '0.1.0', description: 'Moderating marks across sections and markers.' },
    security: [{ session: [] }],
    paths,
    components: {
      schemas: { Problem: schemaOf(Problem, 'output') },
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'level_table_session' } },
    },
  }
}
