"""Long work: a frozen request, a pure function, a result that is taken only while nobody has asked for something newer. No Qt."""
