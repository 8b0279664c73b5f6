/** What can hurt someone here, and what to do about it; stands above the work. */
export function Cautions({ texts }: { texts: readonly string[] }) {
  return (
    <ul aria-label="Cautions" className="my-2 border-l-4 border-mind bg-sheet">
      {texts.map((text) => (
        <li key={text} className="px-3 py-1">
          {text}
        </li>
      ))}
    </ul>
  );
}
