import { FileView } from '@/studio/clip'

export default function Page() {
  return <FileView />
}
