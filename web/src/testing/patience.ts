import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// What a test waits for comes late on a busy machine; what never comes is still found.
configure({ asyncUtilTimeout: 20_000 });

// Files share one page: none leaves its screens to the next.
afterEach(cleanup);
