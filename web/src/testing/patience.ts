import { configure } from "@testing-library/react";

// What a test waits for comes late on a busy machine; what never comes is still found.
configure({ asyncUtilTimeout: 20_000 });
