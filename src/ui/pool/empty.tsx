/** What stands in the place of rows where there are none. */
export function Empty({ hasDomains }: { hasDomains: boolean }) {
  return (
    <div className="bg-sheet flex-1 p-8">
      <h2 className="font-serif text-title font-semibold">
        {hasDomains ? 'Nothing gets through' : 'The pool is empty'}
      </h2>
      <p className="mt-2 max-w-md">
        {hasDomains
          ? 'Each condition on the left says what it keeps out by itself alone. Relax, switch off or remove the one with the largest figure.'
          : 'Domains come from sources: crawl a site that your subject trusts, or load a drop list.'}
      </p>
      {!hasDomains && (
        <p className="mt-3">
          <a href="/sources?add=crawl" className="press">
            Add a source
          </a>
        </p>
      )}
    </div>
  );
}
