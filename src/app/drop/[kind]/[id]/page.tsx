import { DropPage } from '../../../../ui/drop/DropPage.tsx';

export const metadata = { title: 'Drop masters here' };

export default async function Page({ params }: { params: Promise<{ kind: string; id: string }> }) {
  const { kind, id } = await params;
  return <DropPage kind={kind} id={id} />;
}
