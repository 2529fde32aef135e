import { LedgerPage } from '../../ui/ledger/LedgerPage.tsx';

export const metadata = { title: 'Ledger' };

export default function Page() {
  return <LedgerPage />;
}
