import { ComposeView } from '@/studio/compose'

export default function Page() {
  return <ComposeView />
}
