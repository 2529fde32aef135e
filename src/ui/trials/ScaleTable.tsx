import type { Measure } from '../../core/quality/closerLook.ts';
import type { ScaleCurve, ScalePlace, ScalePoint } from '../../core/scale/curve.ts';
import { nameCurve } from '../../core/scale/explain.ts';
import { Button } from '../kit/Button.tsx';
import { Disclosure } from '../kit/Disclosure.tsx';
import { formatBytes } from '../kit/format.ts';

interface Props {
  readonly curves: readonly ScaleCurve[];
  readonly onUse: (place: ScalePlace) => void;
  readonly onSee: (place: ScalePlace) => void;
  readonly programmeId: string;
  readonly measure: Measure;
}

const KINDS: Readonly<Record<ScalePoint['kind'], string>> = {
  tried: 'tried',
  forecast: 'foreseen',
  rendition: 'made',
};

/** Every point with its exact figures, and a key that writes it into the order. */
export function ScaleTable({ curves, onUse, onSee, programmeId, measure }: Props) {
  return (
    <Disclosure name="All figures" className="mt-2 max-w-[60rem]">
      <table className="mt-2 w-full text-sm">
        <thead className="text-quiet text-left">
          <tr>
            <th className="font-normal">Setting</th>
            <th className="text-right font-normal">Quality</th>
            <th className="text-right font-normal">Size</th>
            <th className="text-right font-normal">From</th>
            <th className="text-right font-normal">To</th>
            <th className="text-right font-normal">dB</th>
            <th className="text-right font-normal">Worst twentieth</th>
            <th className="font-normal" />
          </tr>
        </thead>
        <tbody>
          {curves.flatMap((curve) =>
            curve.points.map((point, index) => (
              <tr key={`${nameCurve(curve)} ${index}`} className="border-rule border-t">
                <td>
                  {nameCurve(curve)} <span className="text-quiet">{KINDS[point.kind]}</span>
                </td>
                <td className="figure text-right">
                  {point.kind === 'rendition' && point.quality === 0 ? '–' : point.quality}
                </td>
                <td className="figure text-right">{formatBytes(point.bytes)}</td>
                <td className="figure text-right">{formatBytes(point.low)}</td>
                <td className="figure text-right">{formatBytes(point.high)}</td>
                <td className="figure text-right">{point.value.toFixed(2)}</td>
                <td className="figure text-right">{point.tail === null ? '–' : point.tail.toFixed(2)}</td>
                <td className="text-right">
                  {point.kind !== 'rendition' && (
                    <>
                      <Button look="quiet" onClick={() => onSee({ ...curve, ...point })}>
                        See
                      </Button>
                      <Button look="quiet" onClick={() => onUse({ ...curve, ...point })}>
                        Use
                      </Button>
                    </>
                  )}
                </td>
              </tr>
            )),
          )}
        </tbody>
      </table>
      <p className="mt-1 flex gap-x-4">
        <a href={`/api/programmes/${programmeId}/scale.csv?measure=${measure}`} download className="underline">
          As CSV
        </a>
        <a
          href={`/api/programmes/${programmeId}/scale?measure=${measure}`}
          download="size against quality.json"
          className="underline"
        >
          As JSON
        </a>
      </p>
    </Disclosure>
  );
}
