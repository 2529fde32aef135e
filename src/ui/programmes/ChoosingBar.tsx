import { Layers } from 'lucide-react';
import { useRouter } from 'next/navigation';
import type { ProgrammeSummary } from '../../contract/views.ts';
import { keepChosen } from '../batches/chosenProgrammes.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { count } from '../kit/count.ts';
import { SearchField } from '../kit/SearchField.tsx';
import type { Choosing } from './useChoosing.ts';

interface Props {
  /** Those that are listed now. */
  readonly listed: readonly ProgrammeSummary[];
  /** Programmes that nothing was made of yet. */
  readonly unmade: readonly ProgrammeSummary[];
  readonly choosing: Choosing;
  readonly words: string;
  readonly onWords: (words: string) => void;
}

/** Finding programmes, choosing many of them, and what is done with those. */
export function ChoosingBar({ listed, unmade, choosing, words, onWords }: Props) {
  const router = useRouter();
  const { chosen, set } = choosing;
  const renderAll = () => {
    if (chosen.size === 0) return;
    keepChosen([...chosen]);
    router.push('/batches/new');
  };
  useActKey('r', renderAll);
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
      <SearchField
        label="Find programmes"
        placeholder="Find by name"
        words={words}
        onWords={onWords}
        className="w-56"
      />
      <Button look="quiet" onClick={() => set(listed.map(({ id }) => id))}>
        Choose all {listed.length}
      </Button>
      {unmade.length > 0 && (
        <Button look="quiet" onClick={() => set(unmade.map(({ id }) => id))}>
          Choose the {unmade.length} without a rendition
        </Button>
      )}
      {chosen.size > 0 && (
        <span className="ml-auto flex items-center gap-3">
          <span data-testid="chosen">{count(chosen.size, 'programme', 'programmes')} chosen</span>
          <Button look="quiet" onClick={() => set([])}>
            None
          </Button>
          <Button look="main" hotkey="R" onClick={renderAll}>
            <Layers aria-hidden="true" size={16} /> Render them
          </Button>
        </span>
      )}
    </div>
  );
}
