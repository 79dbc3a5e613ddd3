import type { FileFormat } from '../clock'

/** A file that is to be shown on a page. */
export interface FileOnPage {
  readonly format: FileFormat
  /** Its name, and that of its first frame as a picture. */
  readonly file: string
  readonly poster: string
  /** px, as it is to be shown. */
  readonly width: number
  readonly height: number
  /** Alternative text of the picture. */
  readonly alt: string
}

/** Lines that play a file right, and what to know of them. */
export interface PageLines {
  readonly name: string
  readonly text: string
  /** Language of the lines. */
  readonly language: 'html' | 'css'
  /** How truly it goes round there; empty where there is nothing to say. */
  readonly truth: string
}

const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)
/** A name of a file as an address of it beside the page. */
const address = (file: string): string =>
  encodeURIComponent(file.replace(/\p{Surrogate}/gu, '_')).replaceAll("'", '%27')

const PICTURES: readonly FileFormat[] = ['gif', 'apng', 'webp', 'avif', 'svg']
const VIDEOS: readonly FileFormat[] = ['mp4', 'webm']

const VIDEO_TRUTH =
  'Players of video start anew by seeking: some browsers hold the last frame a little longer there. Where not a frame may be longer, take a picture format.'

function pictureLines({ file, width, height, alt }: FileOnPage): PageLines[] {
  const src = address(file)
  const size = `width="${width}" height="${height}"`
  return [
    { name: 'a picture', language: 'html', text: `<img src="${src}" ${size} alt="${escaped(alt)}">`, truth: '' },
    {
      name: 'a background that tiles',
      language: 'css',
      text: `body {\n  background: url("${src}") 0 0 / ${width}px ${height}px repeat;\n}`,
      truth: 'Seam says whether its edges meet across and down.',
    },
    {
      name: 'behind the whole page',
      language: 'css',
      text: `body {\n  background: url("${src}") center / cover no-repeat fixed;\n}`,
      truth: '',
    },
  ]
}

function videoLines({ file, poster, width, height, alt }: FileOnPage): PageLines[] {
  const source = `src="${address(file)}" poster="${address(poster)}"`
  // Muted and inline is what lets it begin by itself, on phones too.
  const plays = 'autoplay loop muted playsinline disablepictureinpicture'
  return [
    {
      name: 'a video that plays by itself',
      language: 'html',
      text: `<video ${source} width="${width}" height="${height}" ${plays} aria-label="${escaped(alt)}"></video>`,
      truth: VIDEO_TRUTH,
    },
    {
      name: 'behind the whole page',
      language: 'html',
      text: `<video ${source} ${plays} aria-hidden="true" style="position: fixed; inset: 0; width: 100%; height: 100%; object-fit: cover; z-index: -1"></video>`,
      truth: VIDEO_TRUTH,
    },
  ]
}

const vectorLines = ({ file, width, height, alt }: FileOnPage): PageLines[] => [
  {
    name: 'a vector player',
    language: 'html',
    text: [
      `<div id="loop" role="img" aria-label="${escaped(alt)}" style="width: ${width}px; height: ${height}px"></div>`,
      '<script src="lottie.min.js"></script>',
      '<script>',
      `  lottie.loadAnimation({ container: document.getElementById("loop"), path: ${JSON.stringify(address(file))}, loop: true, autoplay: true })`,
      '</script>',
    ].join('\n'),
    truth: 'The player, lottie.min.js, comes from the package lottie-web. It draws at the rate of the display.',
  },
]

/** Lines that show a file on a page as it is meant: endlessly, without a sound, in its own size. None for archives of pictures. */
export function pageLines(of: FileOnPage): readonly PageLines[] {
  if (PICTURES.includes(of.format)) return pictureLines(of)
  if (VIDEOS.includes(of.format)) return videoLines(of)
  return of.format === 'lottie' ? vectorLines(of) : []
}
