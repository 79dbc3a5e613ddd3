import { SeamView } from '@/studio/seam'

export default function Page() {
  return <SeamView />
}
