"""A second evaluation of the comp document, plain and slow: the meaning of the document.

Float64, whole frames, no levels of its own, no trimming, no strips, no cache; one line of NumPy for each
rule. A picture is ``(H, W, 4)``: R, G, B, A, premultiplied over black. Everything a layer does before
it is placed happens at one level: its frame is halved so often, and lengths are divided as often.
"""
