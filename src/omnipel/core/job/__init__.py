"""The document's values, references and changes: only what a person decided or measured."""
