import { LibraryView } from '@/studio/library'

export default function Page() {
  return <LibraryView />
}
