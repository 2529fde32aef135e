import { ProgrammePage } from '../../../ui/programme/ProgrammePage.tsx';

export const metadata = { title: 'Programme' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <ProgrammePage id={(await params).id} />;
}
