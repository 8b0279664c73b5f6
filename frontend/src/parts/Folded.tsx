import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import type { ReactNode } from "react";

/** A heading that folds open to what is needed less often. */
export function Folded({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Disclosure as="div" className="border-b border-rule">
      <DisclosureButton className="min-h-11 cursor-pointer text-act underline underline-offset-4">
        {title}
      </DisclosureButton>
      <DisclosurePanel className="pb-3">{children}</DisclosurePanel>
    </Disclosure>
  );
}
