"""Trains the recogniser of short writing on what `training/draw.ts` drew, and writes it as ONNX.

Use: train.py FOLDER OUT.onnx MINUTES [SEED] [FROM.onnx]

With FROM, that one is trained further, and what is written lies between the two.

A network of convolutions whose columns are classified one by one and joined by CTC (Graves et al. 2006). Short strings
come first; the learning rate falls as a cosine over the time given.
"""

import glob
import json
import math
import multiprocessing
import os
import random
import sys
import tempfile
import time

import numpy as np
import torch
import torch.distributed as together
from torch import nn

# As in src/lib/core/reading/shortAlphabet.ts; class 0 is "nothing new".
ALPHABET = "0123456789abcdefghijklmnopqrstuvwxyz .,:;-()[]/#=+?!&'%*"
HEIGHT = 32
BATCH = 32


class Residual(nn.Module):
    """Looks along the line: each column learns of two on either side."""

    def __init__(self, channels):
        super().__init__()
        self.one = nn.Conv2d(channels, channels, (1, 5), padding=(0, 2))
        self.two = nn.Conv2d(channels, channels, (1, 5), padding=(0, 2))
        self.a = nn.BatchNorm2d(channels)
        self.b = nn.BatchNorm2d(channels)

    def forward(self, x):
        y = torch.relu(self.a(self.one(x)))
        return torch.relu(x + self.b(self.two(y)))


def block(inputs, outputs, stride):
    return nn.Sequential(
        nn.Conv2d(inputs, outputs, 3, stride=stride, padding=1), nn.BatchNorm2d(outputs), nn.ReLU()
    )


class ShortWriting(nn.Module):
    """1 x 32 x W, 0 paper and 1 ink, to W/4 x classes: logarithms of probabilities."""

    def __init__(self):
        super().__init__()
        self.eyes = nn.Sequential(
            block(1, 16, (2, 1)),
            block(16, 40, (1, 2)),
            block(40, 64, (2, 1)),
            block(64, 80, (1, 2)),
            block(80, 104, (2, 1)),
        )
        self.collapse = nn.Sequential(nn.Conv2d(104, 144, (4, 3), padding=(0, 1)), nn.BatchNorm2d(144), nn.ReLU())
        self.along = nn.Sequential(Residual(144), nn.Dropout(0.1), Residual(144))
        self.classes = nn.Conv2d(144, len(ALPHABET) + 1, 1)

    def forward(self, x):
        y = self.classes(self.along(self.collapse(self.eyes(x))))
        return torch.log_softmax(y.squeeze(2), 1).permute(0, 2, 1)


def load(folder, part):
    samples = []
    for path in sorted(glob.glob(f"{folder}/{part}-*.json")):
        data = np.fromfile(path.replace(".json", ".bin"), dtype=np.uint8)
        for at, width, text in json.load(open(path)):
            samples.append((data[at : at + HEIGHT * width].reshape(HEIGHT, width), text))
    return samples


def spoilt(ink, chance):
    """Another width, place, slant, pen and strength each time a sample is shown: another hand, a little."""
    width = ink.shape[1]
    new = max(8, int(width * chance.uniform(0.88, 1.14)))
    columns = np.minimum(width - 1, (np.arange(new) + 0.5) * width / new).astype(int)
    ink = ink[:, columns].astype(np.float32) / 255
    if chance.random() < 0.4:
        slant = chance.uniform(-0.3, 0.3)
        ink = np.stack([np.roll(row, round(slant * (HEIGHT / 2 - y))) for y, row in enumerate(ink)])
    if chance.random() < 0.4:
        ink = taller(ink, chance.uniform(0.8, 1.15))
    if chance.random() < 0.5:
        ink = np.roll(ink, chance.randint(-2, 2), axis=0)
    if chance.random() < 0.25:
        ink = broader(ink) if chance.random() < 0.5 else 1 - broader(1 - ink)
    if chance.random() < 0.4:
        ink = ink ** chance.uniform(0.7, 1.5)
    if chance.random() < 0.5:
        ink = bent(ink, chance.uniform(0.3, 1.6))
    if chance.random() < 0.3:
        ink = ink + np.random.normal(0, chance.uniform(0, 0.08), ink.shape).astype(np.float32)
    return ink


def taller(ink, by):
    """Stretched or squeezed up and down about the middle."""
    rows = (np.arange(HEIGHT) - HEIGHT / 2 + 0.5) / by + HEIGHT / 2 - 0.5
    low = np.clip(np.floor(rows).astype(int), 0, HEIGHT - 1)
    high = np.clip(low + 1, 0, HEIGHT - 1)
    share = (rows - np.floor(rows))[:, None].astype(np.float32)
    out = ink[low] * (1 - share) + ink[high] * share
    out[(rows < -0.5) | (rows > HEIGHT - 0.5)] = 0
    return out


def bent(ink, by):
    """Every point moved by up to about so many pixels, those beside it with it (elastic distortion, Simard et al. 2003)."""
    width = ink.shape[1]
    moved = []
    for _ in range(2):
        coarse = np.random.normal(0, by, (5, max(2, width // 8 + 1)))
        across = np.linspace(0, coarse.shape[1] - 1, width)
        low = np.minimum(coarse.shape[1] - 2, across.astype(int))
        share = across - low
        wide = coarse[:, low] * (1 - share) + coarse[:, low + 1] * share
        down = np.linspace(0, 4, HEIGHT)
        low = np.minimum(3, down.astype(int))
        share = (down - low)[:, None]
        moved.append(wide[low] * (1 - share) + wide[low + 1] * share)
    y = np.clip(np.arange(HEIGHT)[:, None] + moved[0], 0, HEIGHT - 1.001)
    x = np.clip(np.arange(width)[None] + moved[1], 0, max(0, width - 1.001))
    y0, x0 = y.astype(int), x.astype(int)
    y1, x1 = np.minimum(HEIGHT - 1, y0 + 1), np.minimum(width - 1, x0 + 1)
    v, u = y - y0, x - x0
    top = ink[y0, x0] * (1 - u) + ink[y0, x1] * u
    bottom = ink[y1, x0] * (1 - u) + ink[y1, x1] * u
    return (top * (1 - v) + bottom * v).astype(np.float32)


def broader(ink):
    """Half a pixel of ink more on every side."""
    edged = np.pad(ink, 1, mode="edge")
    most = np.maximum.reduce([edged[1:-1, 1:-1], edged[:-2, 1:-1], edged[2:, 1:-1], edged[1:-1, :-2], edged[1:-1, 2:]])
    return 0.5 * (ink + most)


def batch_of(samples, chance=None):
    inks = [spoilt(s[0], chance) if chance else s[0].astype(np.float32) / 255 for s in samples]
    widest = max(8, -(-max(i.shape[1] for i in inks) // 8) * 8)
    x = torch.zeros(len(inks), 1, HEIGHT, widest)
    for n, ink in enumerate(inks):
        x[n, 0, :, : ink.shape[1]] = torch.from_numpy(np.ascontiguousarray(ink))
    steps = torch.tensor([max(1, i.shape[1] // 4) for i in inks])
    targets = [[ALPHABET.index(c) + 1 for c in s[1]] for s in samples]
    return x.contiguous(memory_format=torch.channels_last), steps, targets


def greedy(log, steps):
    read = []
    for n in range(log.shape[0]):
        best = log[n, : steps[n]].argmax(1).tolist()
        text, last = "", 0
        for k in best:
            if k != last and k:
                text += ALPHABET[k - 1]
            last = k
        read.append(text)
    return read


def errors(a, b):
    row = list(range(len(b) + 1))
    for i, c in enumerate(a, 1):
        before, row[0] = row[0], i
        for j, d in enumerate(b, 1):
            before, row[j] = row[j], min(row[j] + 1, row[j - 1] + 1, before + (c != d))
    return row[-1]


def judge(model, samples):
    """Letters misread, as a part of all, and strings read exactly; both by best path."""
    model.eval()
    wrong = letters = exact = 0
    ordered = sorted(samples, key=lambda s: s[0].shape[1])
    with torch.no_grad():
        for at in range(0, len(ordered), 64):
            part = ordered[at : at + 64]
            x, steps, _ = batch_of(part)
            for text, (_, truth) in zip(greedy(model(x), steps), part):
                wrong += errors(text, truth)
                letters += len(truth)
                exact += text.strip() == truth
    model.train()
    return wrong / letters, exact / len(samples)


def convolutions(model):
    """Each convolution with the normalisation behind it, or None, in the order in which they are run."""
    pairs = [(block[0], block[1]) for block in [*model.eyes, model.collapse]]
    for residual in (model.along[0], model.along[2]):
        pairs += [(residual.one, residual.a), (residual.two, residual.b)]
    return [*pairs, (model.classes, None)]


def go_on_from(model, path, samples):
    """
    Takes over the weights of a file that `write` made. Normalisations are folded into them there: they are set anew to
    what they see, so that they change nothing. Where this network is wider, what it has more of is as at random, and
    nothing that was there hears it yet: it says what the narrower one said.
    """
    import onnx
    from onnx import numpy_helper

    graph = onnx.load(path).graph
    known = {i.name: numpy_helper.to_array(i) for i in graph.initializer}
    pairs = convolutions(model)
    nodes = [n for n in graph.node if n.op_type == "Conv"]
    if len(nodes) != len(pairs):
        sys.exit(f"{path} has {len(nodes)} convolutions; {len(pairs)} are needed.")
    seen, taken_over = {}, {}

    def watch(norm, outputs):
        taken_over[norm] = outputs

        def hook(_, inputs):
            seen.setdefault(norm, []).append(inputs[0].transpose(0, 1).flatten(1))

        return norm.register_forward_pre_hook(hook)

    hooks = []
    with torch.no_grad():
        for node, (convolution, norm) in zip(nodes, pairs):
            weight = torch.from_numpy(known[node.input[1]].copy())
            outputs, inputs = weight.shape[:2]
            convolution.weight[:outputs, inputs:] = 0
            convolution.weight[:outputs, :inputs] = weight
            convolution.bias[:outputs] = torch.from_numpy(known[node.input[2]].copy())
            if norm is not None:
                norm.weight.fill_(math.sqrt(1 + norm.eps))
                hooks.append(watch(norm, outputs))
        model.eval()
        for at in range(0, 640, 64):
            model(batch_of(samples[at : at + 64])[0])
        for hook in hooks:
            hook.remove()
        for norm, values in seen.items():
            values = torch.cat(values, 1)
            norm.running_mean.copy_(values.mean(1))
            norm.running_var.copy_(values.var(1))
            norm.weight.fill_(1)
            outputs = taken_over[norm]
            norm.weight[:outputs] = (norm.running_var + norm.eps).sqrt()[:outputs]
            norm.bias[:outputs] = norm.running_mean[:outputs]
    model.train()


def best_between(begin, out, training, tuning):
    """
    Writes, of what lies between two files that `write` made, the one that reads the tuning part best. One network that was
    trained further on other hands still lies in one valley with what it was, and between the two is often what neither
    forgot nor learnt by heart (Wortsman et al. 2022).
    """
    tried = []
    for share in (0, 0.25, 0.4, 0.55, 0.7, 1):
        path = f"{out}.{share}"
        write_between(begin, out, share, path)
        model = ShortWriting().to(memory_format=torch.channels_last)
        go_on_from(model, path, training)
        wrong, exact = judge(model, tuning)
        print(f"{share} of the way: {100 * wrong:.2f} % of letters misread, {100 * exact:.1f} % exact", flush=True)
        tried.append((wrong, path, model))
    _, path, model = min(tried, key=lambda one: one[0])
    os.replace(path, out)
    for _, other, _ in tried:
        if other != path:
            os.remove(other)
    return model


def write_between(one, other, share, out):
    """Weights so far on the way from one file to another; both hold the same network."""
    import onnx
    from onnx import numpy_helper

    models = [onnx.load(path) for path in (one, other)]
    known = [{i.name: i for i in model.graph.initializer} for model in models]
    nodes = [[n for n in model.graph.node if n.op_type == "Conv"] for model in models]
    for from_node, to_node in zip(*nodes, strict=True):
        for place in (1, 2):
            target = known[1][to_node.input[place]]
            begun, ended = numpy_helper.to_array(known[0][from_node.input[place]]), numpy_helper.to_array(target)
            # What the wider one has more of lies where it was begun: at nothing that is heard.
            wide = np.zeros_like(ended)
            wide[tuple(slice(0, n) for n in begun.shape)] = begun
            between = ((1 - share) * wide + share * ended).astype(np.float32)
            target.CopyFrom(numpy_helper.from_array(between, target.name))
    onnx.save(models[1], out)


def serve(training, seed, past, batches):
    """Puts together batches in a process of its own; `past` is the part of the time that is over."""
    torch.set_num_threads(1)
    np.random.seed(seed)
    chance = random.Random(seed)
    short = sorted(training, key=lambda s: s[0].shape[1])
    while True:
        # Samples of about one width together, in the beginning only short ones.
        reach = len(short) if past.value > 0.15 else int(len(short) * (0.35 + 4 * past.value))
        middle = chance.randrange(reach)
        window = short[max(0, middle - 400) : min(reach, middle + 400)]
        x, steps, targets = batch_of([chance.choice(window) for _ in range(BATCH)], chance)
        batches.put((x.numpy(), steps.numpy(), targets))


def prepare(rank, folder, seed, begin):
    """The same network in every process, and what it is trained on."""
    torch.set_num_threads(1)
    torch.manual_seed(seed)
    # What was cut out of pages is nearest to what is read: it is shown twice as often.
    drawn = load(folder, "training") + load(folder, "training-pages")
    training = [s for s in drawn if s[1] and len(s[1]) * 4 <= s[0].shape[1] * 1.6]
    model = ShortWriting().to(memory_format=torch.channels_last)
    if begin:
        go_on_from(model, begin, training)
    torch.manual_seed(seed + rank)
    return model, training


def averaged(model, gone):
    """Sets every gradient to its mean over the processes, and answers how much of the time is over for all of them."""
    gradients = [p.grad for p in model.parameters()]
    flat = torch.cat([g.reshape(-1) for g in gradients] + [torch.tensor([gone])])
    together.all_reduce(flat)
    flat /= together.get_world_size()
    at = 0
    for g in gradients:
        g.copy_(flat[at : at + g.numel()].view_as(g))
        at += g.numel()
    return flat[-1].item()


def train(rank, processes, meeting, folder, out, minutes, seed, begin):
    together.init_process_group("gloo", init_method=f"file://{meeting}", rank=rank, world_size=processes)
    model, training = prepare(rank, folder, seed, begin)
    first = rank == 0
    tuning = load(folder, "tuning") if first else []
    highest = 3e-3
    past = multiprocessing.Value("d", 0)
    if first:
        print(f"{len(training)} samples, {sum(p.numel() for p in model.parameters())} parameters", flush=True)
    if begin:
        # Steps as large as at first would undo what is known; and long samples are not new to it.
        highest, past.value = 6e-4, 0.16
        if first:
            wrong, exact = judge(model, tuning)
            print(f"begins with {100 * wrong:.2f} % of letters misread, {100 * exact:.1f} % exact", flush=True)
    batches = multiprocessing.Queue(16)
    multiprocessing.Process(target=serve, args=(training, seed + rank, past, batches), daemon=True).start()
    loss_of = nn.CTCLoss(zero_infinity=True)
    best = torch.optim.AdamW(model.parameters(), lr=highest, weight_decay=1e-2)
    began = time.time()
    shown = 0
    running = None
    next_word = 60
    gone = 0
    while gone < 1:
        past.value = max(past.value, gone)
        rate = highest * min(1, gone / 0.01 + 0.05) * (0.5 + 0.5 * math.cos(math.pi * gone))
        for group in best.param_groups:
            group["lr"] = rate
        x, steps, targets = batches.get()
        steps = torch.from_numpy(steps)
        log = model(torch.from_numpy(x).contiguous(memory_format=torch.channels_last)).permute(1, 0, 2)
        loss = loss_of(
            log,
            torch.tensor([t for target in targets for t in target]),
            steps.clamp(max=log.shape[0]),
            torch.tensor([len(t) for t in targets]),
        )
        best.zero_grad(set_to_none=True)
        loss.backward()
        gone = averaged(model, (time.time() - began) / (60 * minutes))
        nn.utils.clip_grad_norm_(model.parameters(), 2.0)
        best.step()
        shown += BATCH * processes
        running = loss.item() if running is None else 0.99 * running + 0.01 * loss.item()
        if first and time.time() - began > next_word:
            wrong, exact = judge(model, tuning[:600])
            print(
                f"{(time.time() - began) / 60:.0f} min, {shown} shown, loss {running:.3f}: "
                f"{100 * wrong:.1f} % of letters misread, {100 * exact:.1f} % exact",
                flush=True,
            )
            write(model, out)
            next_word += 180
    if first:
        write(model, out)
        if begin:
            model = best_between(begin, out, training, tuning)
        for part in ("tuning", "test"):
            wrong, exact = judge(model, load(folder, part))
            print(f"{part}: {100 * wrong:.2f} % of letters misread, {100 * exact:.1f} % exact", flush=True)


def main():
    folder, out, minutes = sys.argv[1], sys.argv[2], float(sys.argv[3])
    seed = int(sys.argv[4]) if len(sys.argv) > 4 else 1
    begin = sys.argv[5] if len(sys.argv) > 5 else None
    processes = os.cpu_count() or 1
    with tempfile.TemporaryDirectory() as meeting:
        known = (processes, f"{meeting}/meeting", folder, out, minutes, seed, begin)
        workers = [multiprocessing.Process(target=train, args=(rank, *known)) for rank in range(processes)]
        for worker in workers:
            worker.start()
        for worker in workers:
            worker.join()
    if any(worker.exitcode for worker in workers):
        sys.exit("Training ended early.")


def write(model, out):
    model.eval()
    torch.onnx.export(
        model,
        torch.zeros(1, 1, HEIGHT, 128),
        out,
        input_names=["ink"],
        output_names=["log"],
        dynamic_axes={"ink": {0: "batch", 3: "width"}, "log": {0: "batch", 1: "steps"}},
        opset_version=13,
    )
    model.train()


if __name__ == "__main__":
    main()
