import { Check as Tick, X } from 'lucide-react';
import type { FillView, RenditionView } from '../../contract/views.ts';
import { useRendition } from '../hooks/queries.ts';
import { formatExactBytes } from '../kit/format.ts';
import { Disclosure } from '../kit/Disclosure.tsx';
import { Notice } from '../kit/Notice.tsx';
import { Captions } from './Captions.tsx';
import { FillStrip } from './FillStrip.tsx';
import { Numbers } from './Numbers.tsx';
import { PlayResult } from './PlayResult.tsx';

const OUTCOMES: Readonly<Record<FillView['outcome'], string>> = {
  filled: 'The cap is met and filled.',
  saturated: 'The encoder was at its finest sensible quality; more bytes would show nothing.',
  'passes-spent': 'The fullest file under the cap that the encodes gave.',
  over: 'No encode came under the cap.',
};

/** What was checked, with what was expected and found; how the size was met; why it failed. */
export function RenditionDetails({ id }: { readonly id: string }) {
  const { data: rendition, error } = useRendition(id);
  if (error) return <Notice kind="wrong">{error.message}</Notice>;
  if (!rendition) return <p className="text-quiet">Reading what is known of it …</p>;
  const { problem, checks, fill, quality } = rendition;
  return (
    <div className="space-y-3">
      {rendition.state === 'stopped' && <p>Stopped; nothing of it was kept.</p>}
      {problem && (
        <Notice kind="wrong">
          {problem.message}
          {problem.detail && (
            <Disclosure name="The engine’s own words" className="mt-1 text-sm">
              <pre className="figure max-h-40 overflow-auto whitespace-pre-wrap">{problem.detail}</pre>
            </Disclosure>
          )}
        </Notice>
      )}
      {rendition.plan.advisories
        .filter(({ code }) => code === 'frame-size-measured')
        .map(({ message }) => (
          <p key={message}>Its frame size was measured: {message}</p>
        ))}
      <div className="flex flex-wrap gap-x-10 gap-y-3">
        {checks.length > 0 && <ChecksTable checks={checks} />}
        {fill && <FillTable fill={fill} />}
      </div>
      {quality?.closer && <Numbers rendition={rendition} closer={quality.closer} />}
      {fill?.groups && <FillStrip groups={fill.groups} />}
      {rendition.hasFile && <PlayResult rendition={rendition} />}
      {rendition.hasFile && <Captions id={id} />}
      {quality && (
        <p className="text-quiet text-sm">
          Measured at the master’s frame size, scaled with {quality.scaler}. The file is {rendition.path}.
        </p>
      )}
    </div>
  );
}

function ChecksTable({ checks }: { readonly checks: RenditionView['checks'] }) {
  return (
    <table className="text-sm" data-testid="checks">
      <thead className="text-quiet text-left">
        <tr>
          <th className="font-normal">Check</th>
          <th className="px-4 font-normal">Expected</th>
          <th className="font-normal">Found</th>
        </tr>
      </thead>
      <tbody>
        {checks.map((check) => (
          <tr key={check.name}>
            <td className="pr-2">
              {check.ok ? (
                <Tick aria-label="passed" size={15} className="text-measured mr-1 inline" />
              ) : (
                <X aria-label="failed" size={15} className="text-wrong mr-1 inline" />
              )}
              {check.name}
            </td>
            <td className="figure px-4">{check.expected}</td>
            <td className="figure">{check.found}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function FillTable({ fill }: { readonly fill: FillView }) {
  return (
    <div className="text-sm">
      <table>
        <thead className="text-quiet text-left">
          <tr>
            <th className="font-normal">Encode</th>
            <th className="px-4 text-right font-normal">Asked</th>
            <th className="text-right font-normal">File</th>
            <th className="pl-4 text-right font-normal">Of the cap</th>
          </tr>
        </thead>
        <tbody className="figure">
          {fill.secondPasses.map((pass, index) => (
            <tr key={index}>
              <td>{index + 1}</td>
              <td className="px-4 text-right">
                {pass.kbps === null ? `quality ${pass.quality}` : `${pass.kbps.toFixed(0)} kb/s`}
              </td>
              <td className="text-right">{formatExactBytes(pass.bytes)}</td>
              <td className="pl-4 text-right">{((100 * pass.bytes) / fill.cap).toFixed(2)} %</td>
            </tr>
          ))}
          {fill.retouches.map((again, index) => (
            <tr key={`again-${index}`}>
              <td className="whitespace-nowrap">
                Frames {again.inFrame} to {again.outFrame}
                {again.isUsed && (
                  <Tick aria-label="stands in the file" size={15} className="text-measured ml-1 inline" />
                )}
              </td>
              <td className="px-4 text-right">quality {again.quality.toFixed(2)}</td>
              <td className="text-right">{again.bytes === null ? 'no use' : formatExactBytes(again.bytes)}</td>
              <td className="pl-4 text-right">
                {again.bytes !== null && `${((100 * again.bytes) / fill.cap).toFixed(2)} %`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-quiet mt-1 max-w-[36rem]">
        {OUTCOMES[fill.outcome]} {fill.joinedFrom !== null && explainJoin(fill.joinedFrom)}{' '}
        {fill.retouches.length > 0 &&
          'The frames listed were encoded again by themselves, to be as large as the rest leaves room for; those with a tick stand in the file.'}
      </p>
    </div>
  );
}

function explainJoin(passes: number): string {
  return passes > 1
    ? `The file is put together from ${passes} of the encodes, at keyframes.`
    : 'The file is put together at keyframes.';
}
