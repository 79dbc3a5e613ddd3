import { FitView } from '@/studio/fit'

export default function Page() {
  return <FitView />
}
