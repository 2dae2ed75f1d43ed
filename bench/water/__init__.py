"""Water: what activities take, days left with and without them, rations kept; on diaries whose truth is events."""
