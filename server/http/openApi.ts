import { z } from 'zod'
import { clientPageEndpoints, fileEndpoints, houseEndpoints } from '#core/api/fileEndpoints.ts'
import { endpoints, problemDetails } from '#core/api/endpoints.ts'
import type { Endpoint } from '#core/api/endpoint.ts'

type Json = Record<string, unknown>

const schemaOf = (schema: z.ZodType, io: 'input' | 'output'): Json =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any', target: 'openapi-3.0' })

function parametersOf({ parameters, query }: Pick<Endpoint, 'parameters' | 'query'>): Json[] {
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
    ...(endpoint.access === 'anybody' || !endpoint.byKey ? {} : { security: [{ key: [] }] }),
    responses: {
      200: { description: 'Done', content: json(schemaOf(endpoint.answer, 'output')) },
      default: {
        description: 'A problem (RFC 9457)',
        content: { 'application/problem+json': { schema: schemaOf(problemDetails, 'output') } },
      },
    },
  }
}

const inBraces = (path: string) => path.replace(/\{\/\*\w+\}/g, '').replace(/:(\w+)/g, '{$1}')

const answers = (type: string): Json => ({
  200: { description: 'Done', content: { [type]: { schema: { type: 'string' } } } },
})

function filePaths(): Record<string, Json> {
  return Object.fromEntries(
    Object.entries(fileEndpoints).map(([name, of]) => [
      inBraces(of.path),
      {
        get: {
          operationId: name,
          summary: of.summary,
          parameters: parametersOf(of),
          responses: answers(of.type),
        },
      },
    ]),
  )
}

function clientPagePaths(): Record<string, Json> {
  const parametersIn = (path: string) =>
    [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }))
  return Object.fromEntries(
    [...clientPageEndpoints, ...Object.values(houseEndpoints)].map(({ methods, path, summary, type }) => [
      inBraces(path),
      Object.fromEntries(
        methods.map((method) => [
          method.toLowerCase(),
          { summary, parameters: parametersIn(path), responses: answers(type) },
        ]),
      ),
    ]),
  )
}

/**
 * Schemas that refer to themselves get a place of their own in the document, among `schemas`, and what refers to them
 * refers to that. `prefix` tells apart those that came with one schema from those of another.
 */
function hoisted(value: unknown, schemas: Json, prefix = ''): unknown {
  if (Array.isArray(value)) return value.map((one) => hoisted(one, schemas, prefix))
  if (typeof value !== 'object' || value === null) return value
  const { definitions, ...rest } = value as Json
  const own = definitions === undefined ? prefix : `Recursive${Object.keys(schemas).length}`
  for (const [name, schema] of Object.entries(definitions ?? {})) {
    schemas[`${own}${name}`] = hoisted(schema, schemas, own)
  }
  return Object.fromEntries(
    Object.entries(rest).map(([name, one]) => [
      name,
      name === '$ref' && typeof one === 'string'
        ? one.replace('#/definitions/', `#/components/schemas/${own}`)
        : hoisted(one, schemas, own),
    ]),
  )
}

/** The OpenAPI description of the API, made from the same schemas that check every request. */
export function openApiDocument(): Json {
  const paths: Record<string, Json> = { ...filePaths(), ...clientPagePaths() }
  for (const [name, endpoint] of Object.entries(endpoints)) {
    const path = inBraces(endpoint.path)
    paths[path] = { ...paths[path], [endpoint.method.toLowerCase()]: operationOf(name, endpoint) }
  }
  const schemas: Json = {}
  const whole = hoisted(paths, schemas)
  return {
    openapi: '3.0.3',
    info: { title: 'Vorfreude', version: '1' },
    paths: whole,
    components: { schemas, securitySchemes: { key: { type: 'http', scheme: 'bearer' } } },
  }
}
