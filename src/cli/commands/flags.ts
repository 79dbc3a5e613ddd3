import { Option } from 'commander'
import { BACKGROUNDS, MAX_REPEATS } from '@/core/output/bounds'
import { within } from '../arguments'

/** Allows a file to be replaced that somebody else wrote. */
export const force = () =>
  new Option('--force', 'replaces files that this program did not write, or that were changed since')

export const quality = () => new Option('--quality <n>', 'WebP: with loss, at a quality').argParser(within(1, 100))

export const outside = () => new Option('--outside', 'paths of the plan may lead out of its folder')

export const repeats = () =>
  new Option('--repeats <n>', 'times within the file').argParser(within(1, MAX_REPEATS)).default(1)

export const background = () =>
  new Option('--background <which>', 'kept, or removed').choices(BACKGROUNDS.slice(0, 2)).default('kept')
