import { ExportView } from '@/studio/export'

export default function Page() {
  return <ExportView />
}
