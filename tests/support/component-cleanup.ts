/** What a test put on the page is taken off after it; loaded here, so that it holds for all files of a group. */
import '@testing-library/react';

afterEach(() => localStorage.clear());
