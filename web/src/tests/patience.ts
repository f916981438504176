import { configure } from "@testing-library/react";

// as long as a busy machine may take; who waits for what comes is not held up by it
configure({ asyncUtilTimeout: 20_000 });
