import { QueuePage } from '../../ui/queue/QueuePage.tsx';

export const metadata = { title: 'Queue' };

export default function Page() {
  return <QueuePage />;
}
