import Link from '../ui/link';

export default function NotFound() {
  return (
    <div className="mx-auto max-w-2xl px-6 py-10">
      <h1>There is nothing here</h1>
      <p className="mt-2">
        The address leads nowhere.{' '}
        <Link className="set" href="/">
          Today
        </Link>{' '}
        is a good place to go on.
      </p>
    </div>
  );
}
