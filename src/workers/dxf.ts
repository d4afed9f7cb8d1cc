import { dxfLines } from '../core/building/dxf-lines'
import { type Line, roomsFromLines } from '../core/building/from-lines'
import { answering } from './answering'

/** Reads a drawing, and makes out rooms in its lines. */
answering((question: string | readonly Line[]) => (typeof question === 'string' ? dxfLines(question) : roomsFromLines(question)))
