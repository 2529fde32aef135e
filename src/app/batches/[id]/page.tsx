import { BatchPage } from '../../../ui/batches/BatchPage.tsx';

export const metadata = { title: 'Batch' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <BatchPage id={(await params).id} />;
}
