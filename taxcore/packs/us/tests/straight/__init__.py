"""The federal return a second time: straight-line functions from facts to refund, written from the law apart from the engine.

`facts` puts a household together at random and writes its papers; `income`, `deductions`, `taxes` and `credits` are the law, with
amounts of their own in `amounts`; `federal` goes through them from the first line to the last. `states` has one function a state.
Nothing here imports the pack's rules: whatever both sides agree on was found twice.
"""
