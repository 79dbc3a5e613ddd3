import { Workspace } from '@/studio/shell'

export default async function Layout({
  children,
  params,
}: {
  children: React.ReactNode
  params: Promise<{ id: string }>
}) {
  const { id } = await params
  return <Workspace id={id}>{children}</Workspace>
}
