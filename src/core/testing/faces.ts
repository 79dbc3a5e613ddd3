import { loadFaces } from '../text'

// Every test may set text; how faces come when they are asked for is tested in text/faces.test.ts.
await loadFaces()
