"""The returns a second time: straight-line functions from facts to refund, written from the law apart from the engine.

`facts` puts a household together at random, `papers` writes what it would bring; `income`, `deductions`, `taxes` and `credits`
are the law, with amounts of their own in `amounts`; `federal` goes through them from the first line to the last, and `states`
has one function a state. Nothing here imports the pack's rules: whatever both sides agree on was found twice.
"""
