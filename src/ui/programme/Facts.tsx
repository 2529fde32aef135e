import { Copy } from 'lucide-react';
import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { AnalysisView, ProgrammeView } from '../../contract/views.ts';
import { api } from '../hooks/api.ts';
import { Button } from '../kit/Button.tsx';
import { Disclosure } from '../kit/Disclosure.tsx';
import { describeProgramme } from './describeProgramme.ts';
import { factsAsText, listFacts } from './listFacts.ts';

/** All facts in the trade's words, and everything raw one fold further. */
export function Facts({
  programme,
  analysis,
}: {
  readonly programme: ProgrammeView;
  readonly analysis: AnalysisView | undefined;
}) {
  const groups = listFacts(programme, analysis);
  const copy = () => {
    const text = `${programme.name}\n${describeProgramme(programme)}\n\n${factsAsText(groups)}`;
    navigator.clipboard.writeText(text).then(
      () => toast('The facts are copied as text.'),
      () => toast.error('The browser did not allow copying.'),
    );
  };
  return (
    <Disclosure name="All facts" look="quiet" className="mt-1" testId="facts">
      <div className="mt-2 gap-x-10 lg:columns-2">
        {groups.map(({ title, facts }) => (
          <section key={title} className="mb-3 break-inside-avoid">
            <h3 className="border-rule mb-1 border-b font-semibold">{title}</h3>
            <dl className="grid grid-cols-[9.5rem_1fr] gap-x-3 gap-y-0.5">
              {facts.map(([name, value]) => (
                <div key={name} className="contents">
                  <dt className="text-quiet">{name}</dt>
                  <dd className="figure break-words">{value}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
      <div className="mt-3 flex items-start gap-3">
        <Button onClick={copy}>
          <Copy aria-hidden="true" size={15} /> Copy as text
        </Button>
        <Raw id={programme.id} />
      </div>
    </Disclosure>
  );
}

function Raw({ id }: { readonly id: string }) {
  const [isOpen, setOpen] = useState(false);
  const { data } = useQuery({ queryKey: ['raw', id], queryFn: () => api.raw(id), enabled: isOpen });
  return (
    <Disclosure name="Everything raw" look="quiet" className="min-w-0 grow" onOpen={setOpen}>
      <pre className="figure bg-sunk mt-1 max-h-80 overflow-auto rounded p-2 text-xs" tabIndex={0}>
        {data === undefined ? 'Reading …' : JSON.stringify(data, null, 2)}
      </pre>
    </Disclosure>
  );
}
