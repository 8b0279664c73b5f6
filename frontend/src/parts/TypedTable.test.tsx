import { act, fireEvent, screen } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import type { CsvPreview, Write } from "../api/types";
import { TypedTable } from "./TypedTable";
import { serve, showInJob } from "./testing";

const preview = (): Promise<CsvPreview> => new Promise(() => undefined);

function Page() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" onClick={() => setOpen(!open)}>
        Type many
      </button>
      <button type="button">sump</button>
      {open && (
        <TypedTable
          title="Type many"
          noun="mount"
          label="a line for each"
          placeholder=""
          preview={preview}
          take={() => (() => Promise.reject(new Error("not asked"))) as Write}
          close={() => setOpen(false)}
        />
      )}
    </>
  );
}

const button = (name: string) => screen.getByRole("button", { name });

async function opened() {
  serve(() => undefined);
  showInJob(<Page />);
  button("Type many").focus();
  await act(async () => void fireEvent.click(button("Type many")));
  expect(document.activeElement).toBe(screen.getByLabelText("a line for each"));
}

describe("where the keys are when a table closes", () => {
  it("is where it was opened", async () => {
    await opened();
    await act(async () => void fireEvent.click(button("Leave it")));
    expect(document.activeElement).toBe(button("Type many"));
  });

  it("is where somebody went meanwhile", async () => {
    await opened();
    button("sump").focus();
    await act(async () => void fireEvent.click(button("Leave it")));
    expect(document.activeElement).toBe(button("sump"));
  });
});
