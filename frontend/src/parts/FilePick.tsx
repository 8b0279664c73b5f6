type Props = {
  words: string;
  accept: string;
  pick: (file: File) => void;
  testId?: string;
};

/** A button that asks for one file; the same file may be picked again. */
export function FilePick({ words, accept, pick, testId }: Props) {
  return (
    <label className="inline-flex min-h-11 cursor-pointer items-center border border-act bg-sheet px-3.5 font-semibold text-act focus-within:outline-3 focus-within:outline-act">
      {words}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        data-testid={testId}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) pick(file);
          event.target.value = "";
        }}
      />
    </label>
  );
}
