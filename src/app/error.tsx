'use client';

/** Shown in place of a screen that could not be drawn; the others go on working. */
export default function ScreenError({ error, reset }: { error: Error & { digest?: string }; reset(): void }) {
  return (
    <div className="mx-auto max-w-2xl px-6 py-10" role="alert">
      <h1>This screen could not be drawn</h1>
      <p className="mt-2">{error.message}</p>
      <p className="mt-1 text-muted">
        If the engine has just been restarted, it needs a few seconds. Nothing that was stored is lost.
      </p>
      <button type="button" className="press mt-3" onClick={reset}>
        Try again
      </button>
    </div>
  );
}
