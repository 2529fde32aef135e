import Link from 'next/link';

export const metadata = { title: 'Nothing here' };

export default function NotFound() {
  return (
    <main className="mx-auto max-w-6xl px-5 py-10">
      <h1 className="text-2xl font-semibold">There is nothing at this address</h1>
      <p className="text-quiet mt-2 max-w-[44rem]">
        It may have been mistyped, or what was here was forgotten. Masters and renditions stay where they are, as files.
      </p>
      <p className="mt-4 flex gap-5">
        <Link href="/" className="underline">
          All programmes
        </Link>
        <Link href="/queue" className="underline">
          The queue
        </Link>
        <Link href="/settings" className="underline">
          Settings, with what was forgotten
        </Link>
      </p>
    </main>
  );
}
