import Link from 'next/link';
import { useState } from 'react';
import type { AnalysisView, ProgrammeView } from '../../contract/views.ts';
import { ApiError } from '../hooks/api.ts';
import { useRepoint } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';
import { describeProgramme } from './describeProgramme.ts';
import { Facts } from './Facts.tsx';

/** What a programme is: its name, a sentence, all facts a fold away, and whether its master is still the same. */
export function WhatItIs({
  programme,
  analysis,
}: {
  readonly programme: ProgrammeView;
  readonly analysis: AnalysisView | undefined;
}) {
  return (
    <section>
      <h1 className="text-2xl font-semibold break-words">{programme.name}</h1>
      {programme.state !== 'failed' && <p className="max-w-[60rem]">{describeProgramme(programme)}</p>}
      {programme.problem && (
        <Notice kind="wrong" role="alert">
          {programme.problem.message} <LookAgain programme={programme} />
        </Notice>
      )}
      {programme.master !== 'there' && <MasterGone programme={programme} />}
      <Facts programme={programme} analysis={analysis} />
    </section>
  );
}

/** For a file that could not be looked at: perhaps its disk is back, or it is written to its end. */
function LookAgain({ programme }: { readonly programme: ProgrammeView }) {
  const repoint = useRepoint(programme.id);
  const look = () => repoint.mutate({ path: programme.path, replace: false });
  return (
    <>
      <button type="button" className="underline" disabled={repoint.isPending} onClick={look}>
        Look at it again
      </button>
      {repoint.error && <span className="block">{repoint.error.message}</span>}
    </>
  );
}

/** The master moved or changed: nothing is done with it before someone says which file is meant. */
function MasterGone({ programme }: { readonly programme: ProgrammeView }) {
  const [path, setPath] = useState(programme.path);
  const repoint = useRepoint(programme.id);
  const isOther = repoint.error instanceof ApiError && repoint.error.body.code === 'other-file';
  const isChanged = programme.master === 'changed' && path === programme.path;
  return (
    <div className="mt-2 max-w-[60rem]" data-testid="master-gone">
      <Notice kind="wrong" role="alert">
        {programme.master === 'missing'
          ? 'The master is no longer where it was. Put it back, or say where it is now; until then nothing is encoded from it.'
          : 'The master was changed since it was looked at. Nothing is encoded from it before it is looked at again.'}
        <form
          className="mt-1.5 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            repoint.mutate({ path, replace: isChanged || isOther });
          }}
        >
          <input
            aria-label="Path of the master"
            value={path}
            onChange={(event) => {
              setPath(event.target.value);
              repoint.reset();
            }}
            className="figure border-rule bg-paper grow rounded border px-2 py-0.5"
          />
          <Button type="submit" disabled={repoint.isPending}>
            {isOther ? 'Take this file all the same' : isChanged ? 'Look at it again' : 'It is here now'}
          </Button>
        </form>
        {repoint.error && <p className="mt-1">{repoint.error.message}</p>}
        <p className="text-quiet mt-1">
          The renditions made from it stay.{' '}
          <Link href="/" className="underline">
            All programmes
          </Link>
        </p>
      </Notice>
    </div>
  );
}
