"""Whether a figure's explanation gives the figure again."""

from decimal import Decimal

from taxcore.engine.figures import Explained, Figure


def assert_explained(test, cell):
    """Its operands, put through its own arithmetic once more, are the figure before rounding; nothing is unexplained."""
    if not cell.is_amount:
        return
    if cell.because is None:
        test.assertIsInstance(cell.computed, (Figure, Decimal), cell.address)
        known = hasattr(cell.computed, "cell") or hasattr(cell.computed, "source")
        test.assertTrue(known, f"{cell.address} explains nothing")
        return
    _assert_steps(test, cell.because, cell.computed, cell.address)


def _assert_steps(test, because, outcome, address):
    test.assertEqual(because.again(), outcome, address)
    for operand in because.operands:
        if isinstance(operand.value, Explained):
            _assert_steps(test, operand.value.because, operand.value, address)
