import type { ReactNode } from "react";

/** What stands before anybody is signed in: a form beside a stretch of pipe. */
export const Door = ({ children }: { children: ReactNode }) => (
  <main className="grid min-h-dvh bg-paper md:grid-cols-[minmax(360px,440px)_1fr]">
    <div className="flex flex-col justify-center gap-4 p-8">
      <p className="wide text-2xl font-extrabold uppercase tracking-wide text-green">Upper Shed</p>
      {children}
    </div>
    <div aria-hidden className="sticky top-0 hidden h-dvh overflow-hidden bg-ground md:block">
      <svg viewBox="0 0 800 800" preserveAspectRatio="xMidYMid slice" className="size-full">
        <g fill="none" stroke="var(--pipe)" strokeWidth="22" strokeLinejoin="round">
          <path d="M-20 600H640V220H820M200 600V220H640M420 600V220" />
        </g>
        <g fill="none" stroke="var(--empty)" strokeWidth="15" strokeLinejoin="round">
          <path d="M-20 600H640V220H820M200 600V220H640M420 600V220" />
        </g>
        <g fill="none" stroke="var(--water)" strokeWidth="15">
          <path d="M-20 600H420V430" />
        </g>
        <g stroke="var(--pipe)" strokeWidth="8" fill="var(--paper)" strokeLinejoin="round">
          <path d="M166 382H234L166 470H234Z" />
          <path d="M606 382H674L606 470H674Z" fill="var(--rust)" />
        </g>
      </svg>
    </div>
  </main>
);
