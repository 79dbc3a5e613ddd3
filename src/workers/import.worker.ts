import { expose } from 'comlink'
import { readSvg, type SvgContent } from '@/core/svg'
import { holdLife } from './alive'

const service = {
  /** The layers of an SVG file. @throws SvgError */
  svg: (text: string, name: string): SvgContent => readSvg(text, name),
}

export type ImportService = typeof service
expose(service)
holdLife()
