import { DeskPage } from '../../../ui/desk/DeskPage.tsx';

export const metadata = { title: 'Viewing desk' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <DeskPage renditionId={(await params).id} />;
}
