import { z } from 'zod'
import { endpoints, problemDetails } from '#core/api/endpoints.ts'
import type { Endpoint } from '#core/api/endpoint.ts'

type Json = Record<string, unknown>

const schemaOf = (schema: z.ZodType, io: 'input' | 'output'): Json =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any', target: 'openapi-3.0' })

function parametersOf({ parameters, query }: Endpoint): Json[] {
  const inPath = Object.entries(parameters.shape).map(([name, schema]) => ({
    name,
    in: 'path',
    required: true,
    schema: schemaOf(schema as z.ZodType, 'input'),
  }))
  const { properties = {}, required = [] } = schemaOf(query, 'input') as {
    properties?: Json
    required?: string[]
  }
  const inQuery = Object.entries(properties).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }))
  return [...inPath, ...inQuery]
}

function operationOf(name: string, endpoint: Endpoint): Json {
  const hasBody = endpoint.method === 'POST' || endpoint.method === 'PUT'
  const json = (schema: Json) => ({ 'application/json': { schema } })
  return {
    operationId: name,
    summary: endpoint.summary,
    parameters: parametersOf(endpoint),
    ...(hasBody ? { requestBody: { required: true, content: json(schemaOf(endpoint.body, 'input')) } } : {}),
    responses: {
      200: { description: 'Done', content: json(schemaOf(endpoint.answer, 'output')) },
      default: {
        description: 'A problem (RFC 9457)',
        content: { 'application/problem+json': { schema: schemaOf(problemDetails, 'output') } },
      },
    },
  }
}

/** The OpenAPI description of the API, made from the same schemas that check every request. */
export function openApiDocument(): Json {
  const paths: Record<string, Json> = {}
  for (const [name, endpoint] of Object.entries(endpoints)) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}')
    paths[path] = { ...paths[path], [endpoint.method.toLowerCase()]: operationOf(name, endpoint) }
  }
  return { openapi: '3.0.3', info: { title: 'Vorfreude', version: '1' }, paths }
}
