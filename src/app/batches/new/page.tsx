import { NewBatchPage } from '../../../ui/batches/NewBatchPage.tsx';

export const metadata = { title: 'A new batch' };

export default function Page() {
  return <NewBatchPage />;
}
