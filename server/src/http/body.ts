import express, {
  type NextFunction,
  type Request,
  type RequestHandler,
  type Response,
} from 'express'
import { isSafeNumber, parse } from 'lossless-json'
import { Problem } from '../problems/problem.ts'

/** The largest body of a request, and of one that brings a whole file in. */
const largest = '1mb'
const largestFile = '20mb'

/** A file of definitions or of rows may be large; everything else is what a person wrote. */
const takesFile = /^\/api\/v1\/(?:definitions\/(?:import|differences)|imports)$/

/** Digits or an exponent that a number of double precision may not hold. */
const long = /\d{16}|\d\.?[eE]|\d\.\d{15}/

/** A number keeps its digits: one that would be rounded travels on as the decimal that a filter writes. */
const numberOf = (text: string): unknown =>
  isSafeNumber(text) ? Number(text) : { op: 'decimal', args: [text] }

/** Reads JSON (RFC 8259) without losing digits. @throws SyntaxError where it is none */
export const readJson = (text: string): unknown =>
  long.test(text) ? parse(text, undefined, numberOf) : JSON.parse(text)

function json(request: Request, _: Response, next: NextFunction): void {
  if (typeof request.body !== 'string') {
    request.body = undefined
    return next()
  }
  try {
    request.body = request.body.trim() === '' ? undefined : readJson(request.body)
  } catch {
    throw new Problem(400, 'Not readable', 'The body is not JSON.')
  }
  next()
}

const text = (limit: string): RequestHandler =>
  express.text({ type: ['application/json', 'application/*+json'], limit })
const ofRequest = text(largest)
const ofFile = text(largestFile)

/** Reads the body of a request, which is JSON. */
export const readBody: readonly RequestHandler[] = [
  (request, response, next) =>
    (takesFile.test(request.path) ? ofFile : ofRequest)(request, response, next),
  json,
]
